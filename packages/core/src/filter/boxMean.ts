import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';
import { kernels, layOut } from '../kernels/kernels.ts';

/**
 * The mean over a square of `2 radius + 1` pixels, over what of it lies inside; time independent of the radius.
 *
 * @param mean where it is written; may be the plane itself
 */
export function boxMean(
  plane: FloatPlane,
  radius: number,
  mean: FloatPlane = createFloatPlane(plane.width, plane.height),
): FloatPlane {
  const { width, height } = plane;
  const count = width * height;
  const data = plane.data.subarray(0, count);
  const { memory, meanRows, meanColumns } = kernels();
  const [from, rows, sums] = layOut([data, data.byteLength, Float64Array.BYTES_PER_ELEMENT * width]);
  meanRows(from, rows, width, height, radius);
  meanColumns(rows, from, width, height, radius, sums);
  mean.data.set(new Float32Array(memory.buffer, from, count));
  return mean;
}
