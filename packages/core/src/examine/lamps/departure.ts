import { boxMean } from '../../filter/boxMean.ts';
import type { FloatPlane } from '../../raster/float.ts';

/** Surroundings reach so many radii: beyond a soft border, near enough to share the tone. */
const AROUND_RADII = 3;

/** How far a departure looks, in pixels of the plane. */
export const departureReach = (radius: number): number =>
  2 * Math.max(1, Math.round(AROUND_RADII * radius)) + 1;

/**
 * How far each place departs from its surroundings at one scale: a mean over the size of a fault less a mean over
 * several times that, both by running boxes, the wider one twice so that its corners do not show.
 *
 * @param luma encoded, 0 to 1
 * @param radius of what is looked for, in pixels of the plane
 * @returns above 0 where a place is brighter than its surroundings
 */
export function departure(luma: FloatPlane, radius: number): FloatPlane {
  const narrow = Math.round(radius / 2);
  const wide = Math.max(1, Math.round((AROUND_RADII * radius) / 2));
  const near = narrow > 0 ? boxMean(luma, narrow) : luma;
  const around = boxMean(luma, wide);
  boxMean(around, wide, around);
  const { width, height } = luma;
  for (let y = 0; y < height; y++) lessRow(near.data, around.data, y * width, width);
  return around;
}

/** What a row is more than another, in place of the other. */
function lessRow(near: Float32Array, around: Float32Array, row: number, width: number): void {
  for (let i = row; i < row + width; i++) around[i] = near[i] - around[i];
}
