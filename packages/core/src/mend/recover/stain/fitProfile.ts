import { solveSymmetric } from '../../../solve/cholesky.ts';
import { intervalOf } from './stain.ts';

/** Differences below this are grain and count as squares, in log light. */
const GRAIN = 0.012;
/** How much neighbouring densities hold together where nothing in the picture tells them, against one pair of pixels. */
const HOLD = 0.4;

/** Where not every pixel counts, those of the next row lie so far aside. */
const SKEW = 2;

/** Pairs of neighbours between which a stain's density may change. */
interface Pairs {
  readonly count: number;
  /** Indices of the two pixels. */
  readonly from: Int32Array;
  readonly to: Int32Array;
}

/** Where depths lie among those at which densities are told: between which two, and how far on. */
interface Places {
  readonly at: Uint8Array;
  readonly share: Float32Array;
  readonly pairs: Pairs;
}

/** @param every how many pixels have one whose pairs count; in rows of `width` */
function placesOf(depth: Float32Array, width: number, depths: readonly number[], every: number): Places {
  const last = depths.length - 1;
  const at = new Uint8Array(depth.length);
  const share = new Float32Array(depth.length);
  const isNear = new Uint8Array(depth.length);
  for (let i = 0; i < depth.length; i++) {
    const value = depth[i];
    if (value < depths[0] - 1 || value > depths[last] + 1) continue;
    isNear[i] = 1;
    const k = intervalOf(depths, value);
    at[i] = k;
    share[i] = Math.min(1, Math.max(0, (value - depths[k]) / (depths[k + 1] - depths[k])));
  }
  const from = new Int32Array(2 * depth.length);
  const to = new Int32Array(2 * depth.length);
  let count = 0;
  const pair = (a: number, b: number): void => {
    if (!isNear[b] || (at[a] === at[b] && share[a] === share[b])) return;
    [from[count], to[count]] = [a, b];
    count++;
  };
  for (let i = 0; i < depth.length; i++) {
    if (!isNear[i] || ((i % width) + SKEW * Math.floor(i / width)) % every !== 0) continue;
    if ((i + 1) % width !== 0) pair(i, i + 1);
    if (i + width < depth.length) pair(i, i + width);
  }
  return { at, share, pairs: { count, from, to } };
}

/** Finds densities by depth inside one border. */
export interface ProfileFitter {
  /**
   * The density by depth under which, once it is undone, the least variation is left: what the subject has there does not
   * follow the border of a stain, so steps along it are the stain's own. Sums of absolute differences of neighbours, so
   * that the subject's few edges do not outweigh its many calm places (iteratively reweighted least squares).
   *
   * @param log logarithm of light, row after row
   * @param rounds of reweighting
   */
  fit(log: Float32Array, rounds: number): Float64Array;
}

/**
 * @param depth of each pixel inside the border, in pixels, in rows of `width`
 * @param depths at which densities are given, rising; at the first it is 0
 * @param every of how many pixels one is asked: a border is found by some of them
 */
export function profileFitter(
  depth: Float32Array,
  width: number,
  depths: readonly number[],
  every = 1,
): ProfileFitter {
  const { at, share, pairs } = placesOf(depth, width, depths, every);
  const n = depths.length;

  /** One round: least squares, weighted by what the densities of the last round leave. */
  function round(log: Float32Array, density: Float64Array): Float64Array | null {
    const matrix = new Float64Array(n * n);
    const right = new Float64Array(n);
    for (let k = 0; k < pairs.count; k++) {
      const [a, b] = [pairs.from[k], pairs.to[k]];
      const [p, q] = [at[a], at[b]];
      // By how much each density counts in the difference.
      const [low, high, lowNext, highNext] = [share[a] - 1, -share[a], 1 - share[b], share[b]];
      const seen = log[b] - log[a];
      const left =
        seen + low * density[p] + high * density[p + 1] + lowNext * density[q] + highNext * density[q + 1];
      const weight = 1 / Math.max(GRAIN, Math.abs(left));
      add(matrix, right, p, low, q, lowNext, highNext, weight, seen);
      add(matrix, right, p + 1, high, q, lowNext, highNext, weight, seen);
      addOwn(matrix, p, low, high, weight);
      addOwn(matrix, q, lowNext, highNext, weight);
      right[q] -= weight * lowNext * seen;
      right[q + 1] -= weight * highNext * seen;
    }
    const hold = HOLD / GRAIN;
    for (let k = 1; k < n; k++) {
      matrix[k * n + k] += hold;
      matrix[(k - 1) * n + k - 1] += hold;
      matrix[k * n + k - 1] -= hold;
      matrix[(k - 1) * n + k] -= hold;
    }
    // Nothing lies before the first depth.
    matrix[0] += 1e9;
    return solveSymmetric(matrix, right);
  }

  /** A density of the first pixel with those of the second, both ways. */
  function add(
    matrix: Float64Array,
    right: Float64Array,
    i: number,
    by: number,
    q: number,
    lowNext: number,
    highNext: number,
    weight: number,
    seen: number,
  ): void {
    right[i] -= weight * by * seen;
    matrix[i * n + q] += weight * by * lowNext;
    matrix[q * n + i] += weight * by * lowNext;
    matrix[i * n + q + 1] += weight * by * highNext;
    matrix[(q + 1) * n + i] += weight * by * highNext;
  }

  /** The two densities of one pixel with each other. */
  function addOwn(matrix: Float64Array, p: number, low: number, high: number, weight: number): void {
    matrix[p * n + p] += weight * low * low;
    matrix[(p + 1) * n + p + 1] += weight * high * high;
    matrix[p * n + p + 1] += weight * low * high;
    matrix[(p + 1) * n + p] += weight * low * high;
  }

  return {
    fit(log, rounds) {
      let density: Float64Array = new Float64Array(n);
      for (let k = 0; k < rounds; k++) density = round(log, density) ?? density;
      return density;
    },
  };
}
