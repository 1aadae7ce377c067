import { solveSymmetric } from './cholesky.ts';

/** A cost near a point: its value and, as normal equations, the way down. */
export interface Descent {
  readonly cost: number;
  /** Curvature, `n * n` values of which the lower triangle is read. */
  readonly matrix: Float64Array;
  /** Minus the gradient. */
  readonly right: Float64Array;
}

export interface LevenbergOptions {
  readonly rounds: number;
  /** A round that gains less than this ends the search. */
  readonly leastGain: number;
}

/**
 * Finds a low place of a cost from a start by damped Gauss-Newton steps.
 * (Levenberg 1944, Marquardt 1963.)
 *
 * @param describe the cost at a point
 * @param advance the point a step leads to, within bounds
 */
export function levenberg(
  start: Float64Array,
  describe: (point: Float64Array) => Descent,
  advance: (point: Float64Array, step: Float64Array) => Float64Array,
  { rounds, leastGain }: LevenbergOptions,
): { point: Float64Array; cost: number } {
  let point = start;
  let here = describe(point);
  let damping = 1e-2;
  const n = here.right.length;
  for (let round = 0; round < rounds && damping < 1e4; round++) {
    const damped = here.matrix.slice();
    for (let i = 0; i < n; i++) damped[i * n + i] = damped[i * n + i] * (1 + damping) + 1e-9;
    const step = solveSymmetric(damped, here.right);
    if (!step) {
      damping *= 10;
      continue;
    }
    const next = advance(point, step);
    const there = describe(next);
    if (there.cost >= here.cost) {
      damping *= 6;
      continue;
    }
    const gain = here.cost - there.cost;
    [point, here] = [next, there];
    damping = Math.max(1e-4, damping / 4);
    if (gain < leastGain) break;
  }
  return { point, cost: here.cost };
}
