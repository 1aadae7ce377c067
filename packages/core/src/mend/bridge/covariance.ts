/** How alike the values at two places are, by how far apart they lie. */
export interface Covariance {
  /** Largest difference of columns or rows that is known. */
  readonly reach: number;
  /** At a difference of (dx, dy); 0 beyond the reach. */
  at(dx: number, dy: number): number;
}

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
  const about = values.map((value, i) => (known[i] ? value : 0));
  const side = 2 * reach + 1;
  const table = new Float64Array(side * (reach + 1));
  for (let dy = 0; dy <= reach; dy++) {
    for (let dx = dy === 0 ? 0 : -reach; dx <= reach; dx++) {
      let products = 0;
      const from = Math.max(0, -dx);
      const to = Math.min(width, width - dx);
      for (let y = 0; y + dy < height; y++) {
        const row = y * width;
        const other = (y + dy) * width + dx;
        for (let x = from; x < to; x++) products += about[row + x] * about[other + x];
      }
      // Over all samples, not over the pairs: only so is it the covariance of some process.
      table[dy * side + dx + reach] = count > 0 ? products / count : 0;
    }
  }
  isotropise(table, reach);
  return {
    reach,
    at: (dx, dy) => {
      if (Math.abs(dx) > reach || Math.abs(dy) > reach) return 0;
      return dy < 0 || (dy === 0 && dx < 0) ? table[-dy * side - dx + reach] : table[dy * side + dx + reach];
    },
  };
}

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
