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
/** Everything that runs like a line, measured, with nothing decided. */
export function lineCandidates(levels: readonly LumaPlane[], raster: Raster): MeasuredLine[] {
  return levels.slice(0, LINE_LEVELS).flatMap((plane, level) => {
    const points = ridgePoints(smoothLuma(smoothLuma(plane)));
    return measureLines(joinPaths(linkRidges(points, plane.width, plane.height), points), points, plane, level, raster);
  });
}
