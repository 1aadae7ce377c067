import { solveSymmetric } from '../../solve/cholesky.ts';
import type { Covariance } from './covariance.ts';

/** A difference of columns and rows. */
export interface Offset {
  readonly dx: number;
  readonly dy: number;
}

/** How many known pixels a prediction rests on: more than these lie behind nearer ones. */
const NEIGHBOURS = 32;
/** Share of the noise that the covariance itself shows that is reckoned with, so that the weights stay calm. */
const NOISE = 0.05;
/** The least of it, as a share of what neighbours differ by. */
const LEAST_NOISE = 0.02;
/** Errors up to this share of full scale are always taken in. */
const LEAST_TOLD = 1 / 255;
/** Variance of rounding alone, in squared shares of full scale. */
const LEAST_VARIANCE = (0.5 / 255) ** 2;

/** Sorted once for each radius: there are only a few, and every mend asks. */
const sorted = new Map<number, readonly Offset[]>();

/** Differences of columns and rows within a radius, near ones first. */
export function offsetsWithin(reach: number): readonly Offset[] {
  const known = sorted.get(reach);
  if (known) return known;
  const offsets: Offset[] = [];
  for (let dy = -reach; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++)
      if (dx * dx + dy * dy <= reach * reach && (dx !== 0 || dy !== 0)) offsets.push({ dx, dy });
  offsets.sort((a, b) => a.dx ** 2 + a.dy ** 2 - b.dx ** 2 - b.dy ** 2);
  sorted.set(reach, offsets);
  return offsets;
}

/** What one pixel is predicted from: the nearest pixels that tell something, and their standard errors. */
export interface Witnesses {
  readonly near: readonly Offset[];
  /** As shares of full scale. */
  readonly errors: readonly number[];
}

/**
 * Finds what a pixel can be predicted from.
 *
 * @param told standard error of each pixel as a share of full scale; infinite where it tells nothing
 * @param offsets where pixels that tell something are looked for, near ones first
 * @param variance of the texture
 */
export function witnessesOf(
  told: Float32Array,
  width: number,
  at: number,
  offsets: readonly Offset[],
  variance: number,
): Witnesses {
  const height = told.length / width;
  const x = at % width;
  const y = Math.floor(at / width);
  const near: Offset[] = [];
  const errors: number[] = [];
  // What is told less surely than the texture itself varies is not worth a place.
  const most = Math.sqrt(variance) + LEAST_TOLD;
  if (told[at] <= most) {
    near.push({ dx: 0, dy: 0 });
    errors.push(told[at]);
  }
  for (const offset of offsets) {
    const [nx, ny] = [x + offset.dx, y + offset.dy];
    if (nx < 0 || ny < 0 || nx >= width || ny >= height || told[ny * width + nx] > most) continue;
    near.push(offset);
    errors.push(told[ny * width + nx]);
    if (near.length === NEIGHBOURS) break;
  }
  return { near, errors };
}

/** The largest difference of columns or rows between any two witnesses of a pixel, or a witness and the pixel. */
export function spanOf(all: readonly Witnesses[]): number {
  let most = 0;
  for (const { near } of all) {
    let [left, right, above, below] = [0, 0, 0, 0];
    for (const { dx, dy } of near) {
      left = Math.min(left, dx);
      right = Math.max(right, dx);
      above = Math.min(above, dy);
      below = Math.max(below, dy);
    }
    most = Math.max(most, right - left, below - above);
  }
  return most;
}

/** The weights that predict a place from others. Null where nothing fits. */
function weightsFor(
  near: readonly Offset[],
  errors: readonly number[],
  covariance: Covariance,
): Float64Array | null {
  const n = near.length;
  const own = covariance.at(0, 0) + LEAST_VARIANCE;
  const [one, two] = [1, 2].map((h) => own - 0.5 * (covariance.at(h, 0) + covariance.at(0, h)));
  // Where values vary smoothly they differ four times as much at twice the distance: what is above that is noise.
  const noise = NOISE * Math.max(LEAST_NOISE * one, (4 * one - two) / 3, LEAST_VARIANCE);
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  for (let a = 0; a < n; a++) {
    for (let b = 0; b < a; b++)
      matrix[a * n + b] = covariance.at(near[a].dx - near[b].dx, near[a].dy - near[b].dy);
    matrix[a * n + a] = own + noise + errors[a] ** 2;
    right[a] = covariance.at(near[a].dx, near[a].dy);
  }
  return solveSymmetric(matrix, right);
}

/**
 * Predicts one pixel in all channels from the nearest known ones: the best linear prediction for a process of that
 * covariance and mean 0. (Simple kriging: Matheron 1963; Cressie, Statistics for Spatial Data, 1993.)
 *
 * @param planes values about their trend
 * @param onto takes the result at `at`
 */
export function predictPixel(
  planes: readonly Float32Array[],
  width: number,
  at: number,
  { near, errors }: Witnesses,
  covariance: Covariance,
  onto: readonly Float32Array[],
): void {
  const weights = near.length > 0 ? weightsFor(near, errors, covariance) : null;
  planes.forEach((plane, c) => {
    // Where nothing is known nearby the trend alone is left.
    let sum = 0;
    near.forEach(({ dx, dy }, k) => {
      if (weights) sum += weights[k] * plane[at + dy * width + dx];
    });
    onto[c][at] = sum;
  });
}
