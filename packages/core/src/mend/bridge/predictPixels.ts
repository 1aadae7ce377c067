import { columnOf } from '../../measure/columnOf.ts';
import { kernels, layOut, take } from '../../kernels/kernels.ts';
import type { Covariance } from './covariance.ts';
import { along } from './covariance.ts';

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
 * @param errorOf standard error of each pixel as a share of full scale; infinite where nothing is known of it
 * @param offsets where pixels that tell something are looked for, near ones first
 * @param variance of the texture
 */
export function witnessesOf(
  errorOf: Float32Array,
  width: number,
  at: number,
  offsets: readonly Offset[],
  variance: number,
): Witnesses {
  const height = errorOf.length / width;
  const x = at % width;
  const y = Math.floor(at / width);
  const near: Offset[] = [];
  const errors: number[] = [];
  // What is known less surely than the texture itself varies is not worth a place.
  const most = Math.sqrt(variance) + LEAST_TOLD;
  if (errorOf[at] <= most) {
    near.push({ dx: 0, dy: 0 });
    errors.push(errorOf[at]);
  }
  for (const offset of offsets) {
    const [nx, ny] = [x + offset.dx, y + offset.dy];
    if (nx < 0 || ny < 0 || nx >= width || ny >= height || errorOf[ny * width + nx] > most) continue;
    near.push(offset);
    errors.push(errorOf[ny * width + nx]);
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

/** What stands on the diagonal of every system: the texture's variance, and a little noise. */
function diagonalOf(covariance: Covariance): number {
  const own = covariance.table[covariance.reach] + LEAST_VARIANCE;
  const [one, two] = [1, 2].map((distance) => {
    const { row, column } = along(covariance, distance);
    return own - 0.5 * (row + column);
  });
  // Where values vary smoothly they differ four times as much at twice the distance: what is above that is noise.
  return own + NOISE * Math.max(LEAST_NOISE * one, (4 * one - two) / 3, LEAST_VARIANCE);
}

/** The weights of all witnesses of all pixels, one after the other. */
function weightsOf(witnesses: readonly Witnesses[], covariance: Covariance): Float64Array {
  const count = witnesses.reduce((sum, { near }) => sum + near.length, 0);
  const offsets = new Int32Array(2 * count);
  const variances = new Float64Array(count);
  let next = 0;
  for (const { near, errors } of witnesses)
    for (let k = 0; k < near.length; k++, next++) {
      offsets[2 * next] = near[k].dx;
      offsets[2 * next + 1] = near[k].dy;
      variances[next] = errors[k] ** 2;
    }
  const most = NEIGHBOURS + 2;
  const [ofOffsets, ofVariances, ofCounts, ofTable, ofWeights, work] = layOut([
    offsets,
    variances,
    columnOf(Int32Array, witnesses, ({ near }) => near.length),
    covariance.table,
    8 * count + 8,
    8 * most * most,
  ]);
  const known = [ofTable, covariance.reach, diagonalOf(covariance)] as const;
  kernels().predict(ofOffsets, ofVariances, ofCounts, witnesses.length, ...known, work, 8 * most, ofWeights);
  return take(Float64Array, ofWeights, count);
}

/**
 * Predicts pixels in all channels from the nearest known ones: the best linear prediction for a process of that
 * covariance and mean 0. Where nothing is known nearby the trend alone is left.
 * (Simple kriging: Matheron 1963; Cressie, Statistics for Spatial Data, 1993.)
 *
 * @param planes values about their trend
 * @param places of the pixels, with the witnesses of each
 * @param onto takes the results at the places
 */
export function predictPixels(
  planes: readonly Float32Array[],
  width: number,
  places: readonly number[],
  witnesses: readonly Witnesses[],
  covariance: Covariance,
  onto: readonly Float32Array[],
): void {
  const weights = weightsOf(witnesses, covariance);
  planes.forEach((plane, c) => {
    let next = 0;
    for (let k = 0; k < places.length; k++) {
      const { near } = witnesses[k];
      let sum = 0;
      for (let w = 0; w < near.length; w++, next++)
        sum += weights[next] * plane[places[k] + near[w].dy * width + near[w].dx];
      onto[c][places[k]] = sum;
    }
  });
}
