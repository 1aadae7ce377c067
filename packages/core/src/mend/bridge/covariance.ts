import { clear, kernels, layOut, take } from '../../kernels/kernels.ts';

/** How alike the values at two places are, by how far apart they lie. */
export interface Covariance {
  /** Largest difference of columns or rows that is known; beyond it they are not alike. */
  readonly reach: number;
  /**
   * Row after row for differences of rows from 0 to the reach, each with those of columns from minus to plus the reach.
   * What lies on the left of the first row is that on its right.
   */
  readonly table: Float64Array;
}

/** How alike the values are at a difference of columns in a row or in a column, 0 to the reach. */
export const along = ({ table, reach }: Covariance, distance: number): { row: number; column: number } => ({
  row: table[reach + distance],
  column: table[distance * (2 * reach + 1) + reach],
});

/** Mean square of the known samples, about a mean of 0: the autocovariance at no difference. */
export function knownVariance(values: Float32Array, known: Uint8Array): number {
  let [squares, count] = [0, 0];
  for (let i = 0; i < values.length; i++) {
    if (!known[i]) continue;
    squares += values[i] * values[i];
    count++;
  }
  return count > 0 ? squares / count : 0;
}

/**
 * The autocovariance of the known samples of a square, by direct sums. Structure that runs one way makes it long that
 * way: what is predicted with it continues lines and weaves along their own direction.
 *
 * @param values about their trend, so that their mean is 0
 * @param known 0 where a sample has no say
 * @param reach largest difference wanted, in samples
 */
export function measureCovariance(
  values: Float32Array,
  known: Uint8Array,
  width: number,
  reach: number,
): Covariance {
  const height = values.length / width;
  const count = known.reduce((sum, one) => sum + one, 0);
  const stride = width + 2 * reach + PADDING;
  const places = (2 * reach + 1) * (reach + 1);
  const padded = new Float32Array(height * stride + reach + PADDING);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, at = y * stride + reach; x < width; x++, i++, at++) padded[at] = known[i] ? values[i] : 0;
  const [ofSamples, ofTable] = layOut([padded, 8 * places]);
  clear(ofTable, 8 * places);
  kernels().covary(ofSamples + 4 * reach, width, height, 4 * stride, reach, ofTable);
  // Over all samples, not over the pairs: only so is it the covariance of some process.
  const table = take(Float64Array, ofTable, places).map((products) => (count > 0 ? products / count : 0));
  isotropise(table, reach);
  return { reach, table };
}

/** Samples behind a row that may be read together with its last one. */
const PADDING = 3;

/** How much of the mean over all directions is mixed in. */
const ROUND = 0.3;

/** Mixes a table with its own mean over all directions: few samples tell directions badly, distances well. */
function isotropise(table: Float64Array, reach: number): void {
  const side = 2 * reach + 1;
  const sums = new Float64Array(2 * reach + 2);
  const counts = new Float64Array(2 * reach + 2);
  const visit = (use: (i: number, distance: number) => void): void => {
    for (let dy = 0; dy <= reach; dy++)
      for (let dx = dy === 0 ? 0 : -reach; dx <= reach; dx++) use(dy * side + dx + reach, Math.hypot(dx, dy));
  };
  visit((i, distance) => {
    const near = Math.floor(distance);
    const far = distance - near;
    sums[near] += (1 - far) * table[i];
    counts[near] += 1 - far;
    sums[near + 1] += far * table[i];
    counts[near + 1] += far;
  });
  const ring = sums.map((sum, k) => (counts[k] > 0 ? sum / counts[k] : 0));
  visit((i, distance) => {
    if (distance === 0) return;
    const near = Math.floor(distance);
    const far = distance - near;
    const round = (1 - far) * ring[near] + far * ring[Math.min(ring.length - 1, near + 1)];
    table[i] += ROUND * (round - table[i]);
  });
}
