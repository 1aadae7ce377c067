import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';

/** How many samples of a run of `2 radius + 1` around `at` lie inside `length`. */
const inside = (at: number, radius: number, length: number): number =>
  Math.min(length - 1, at + radius) - Math.max(0, at - radius) + 1;

/*
 * Every loop over a row stands in a function of its own: called thousands of times it is compiled for the types it
 * sees, several times faster than one loop over the whole plane.
 */

/** Means of runs along one row; shorter runs at the ends. */
function runRow(data: Float32Array, row: number, width: number, radius: number, out: Float32Array): void {
  let sum = 0;
  const first = Math.min(radius, width);
  for (let x = 0; x < first; x++) sum += data[row + x];
  // Runs that begin before the row, runs that lie in it, runs that end after it.
  const whole = Math.max(first, width - radius);
  for (let x = 0; x < first; x++) {
    if (x + radius < width) sum += data[row + x + radius];
    out[row + x] = sum / inside(x, radius, width);
    if (x - radius >= 0) sum -= data[row + x - radius];
  }
  const share = 1 / (2 * radius + 1);
  for (let x = first; x < whole; x++) {
    sum += data[row + x + radius];
    out[row + x] = sum * share;
    sum -= data[row + x - radius];
  }
  for (let x = whole; x < width; x++) {
    out[row + x] = sum / inside(x, radius, width);
    sum -= data[row + x - radius];
  }
}

function addRow(data: Float32Array, row: number, width: number, sums: Float64Array): void {
  for (let x = 0; x < width; x++) sums[x] += data[row + x];
}

function takeRow(data: Float32Array, row: number, width: number, sums: Float64Array): void {
  for (let x = 0; x < width; x++) sums[x] -= data[row + x];
}

function scaleRow(sums: Float64Array, share: number, width: number, out: Float32Array, row: number): void {
  for (let x = 0; x < width; x++) out[row + x] = sums[x] * share;
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
  for (let y = 0; y < Math.min(radius, height); y++) addRow(data, y * width, width, sums);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) addRow(data, (y + radius) * width, width, sums);
    scaleRow(sums, 1 / inside(y, radius, height), width, out, y * width);
    if (y - radius >= 0) takeRow(data, (y - radius) * width, width, sums);
  }
}

/** Holds the means along rows between the two passes; kept, because touching fresh memory costs more than summing. */
let between = new Float32Array(0);

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
  if (between.length < width * height) between = new Float32Array(width * height);
  for (let y = 0; y < height; y++) runRow(plane.data, y * width, width, radius, between);
  columnMeans(between, width, height, radius, mean.data);
  return mean;
}
