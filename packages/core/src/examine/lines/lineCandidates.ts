import { holding } from '../../filter/kernels.ts';
import type { Raster } from '../../raster/raster.ts';
import { cloneRaster, colourChannels } from '../../raster/raster.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import { smoothLuma } from '../ground/lumaLevels.ts';
import { joinPaths } from './joinPaths.ts';
import type { MeasuredLine } from './lineTraits.ts';
import { measureLines } from './lineTraits.ts';
import { linkRidges } from './linkRidges.ts';
import { ridgePoints } from './ridgePoints.ts';

/** Levels that are looked at: lines of one to three pixels on each, up to some twelve at full size. */
export const LINE_LEVELS = 3;

/** Everything that runs like a line, measured, with nothing decided. @param finest level that is looked at */
export function lineCandidates(levels: readonly LumaPlane[], raster: Raster, finest: number): MeasuredLine[] {
  const { planes, width, height, depth } = cloneRaster(raster);
  const colours = planes.slice(0, colourChannels(planes.length));
  return holding(colours, (...channels) =>
    levels.slice(finest, LINE_LEVELS).flatMap((plane, coarser) => {
      const points = ridgePoints(smoothLuma(smoothLuma(plane)));
      const paths = joinPaths(linkRidges(points, plane.width, plane.height), points);
      return measureLines(paths, points, plane, finest + coarser, { channels, width, height, depth });
    }),
  );
}
