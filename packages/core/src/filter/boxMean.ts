import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';

/** How many samples of a run of `2 radius + 1` around `at` lie inside `length`. */
const inside = (at: number, radius: number, length: number): number =>
  Math.min(length - 1, at + radius) - Math.max(0, at - radius) + 1;

/** Means of runs along every row; shorter runs at the ends. */
function runMeans(
  data: Float32Array,
  width: number,
  height: number,
  radius: number,
  out: Float32Array,
): void {
  for (let y = 0; y < height; y++) {
    const row = y * width;
    let sum = 0;
    for (let x = 0; x < Math.min(radius, width); x++) sum += data[row + x];
    for (let x = 0; x < width; x++) {
      if (x + radius < width) sum += data[row + x + radius];
      out[row + x] = sum / inside(x, radius, width);
      if (x - radius >= 0) sum -= data[row + x - radius];
    }
  }
}

/** Means of runs down the columns, all columns at once, so that memory is walked along. */
function columnMeans(
  data: Float32Array,
  width: number,
  height: number,
  radius: number,
  out: Float32Array,
): void {
  const sums = new Float64Array(width);
  const add = (y: number): void => {
    for (let x = 0; x < width; x++) sums[x] += data[y * width + x];
  };
  const take = (y: number): void => {
    for (let x = 0; x < width; x++) sums[x] -= data[y * width + x];
  };
  for (let y = 0; y < Math.min(radius, height); y++) add(y);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) add(y + radius);
    const share = 1 / inside(y, radius, height);
    for (let x = 0; x < width; x++) out[y * width + x] = sums[x] * share;
    if (y - radius >= 0) take(y - radius);
  }
}

/** The mean over a square of `2 radius + 1` pixels, over what of it lies inside; time independent of the radius. */
export function boxMean(plane: FloatPlane, radius: number): FloatPlane {
  const { width, height } = plane;
  const rows = new Float32Array(width * height);
  runMeans(plane.data, width, height, radius, rows);
  const mean = createFloatPlane(width, height);
  columnMeans(rows, width, height, radius, mean.data);
  return mean;
}
