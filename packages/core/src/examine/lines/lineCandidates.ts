import type { Raster } from '../../raster/raster.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { smoothLuma } from '../ground/lumaLevels.ts';
import { joinPaths } from './joinPaths.ts';
import type { MeasuredLine } from './lineTraits.ts';
import { measureLines } from './lineTraits.ts';
import { linkRidges } from './linkRidges.ts';
import { ridgePoints } from './ridgePoints.ts';

/** Levels that are looked at: lines of one to three pixels on each, up to some twelve at full size. */
export const LINE_LEVELS = 3;
/** A line must be so many times as long as it is wide. */
const SLENDER = 4;

/** Everything that runs like a line, measured, with nothing decided. */
export function lineCandidates(levels: readonly LumaPlane[], raster: Raster): MeasuredLine[] {
  return levels.slice(0, LINE_LEVELS).flatMap((plane, level) => {
    const smooth = smoothLuma(smoothLuma(plane));
    const points = ridgePoints(smooth);
    const paths = joinPaths(linkRidges(points, plane.width), points);
    const strengthAt = ([x, y]: readonly [number, number]): number => {
      const k = points.map[Math.floor(y) * plane.width + Math.floor(x)] - 1;
      return k >= 0 ? points.strength[k] : 0;
    };
    return measureLines(paths, plane, level, raster, ({ points: path }) => path.map(strengthAt)).filter(
      ({ length, width }) => length >= SLENDER * width,
    );
  });
}
