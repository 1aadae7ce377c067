import type { Point } from '../../../target/target.ts';
import type { LineProfile, LineSamples } from './lineProfile.ts';
import { unlikeliness } from './lineProfile.ts';

/** How far a course may be moved sideways at its points, in pixels. */
export interface Sideways {
  readonly farthest: number;
  readonly step: number;
}

/** What a bend costs: the square of the difference of neighbouring shifts, in pixels. */
const STIFFNESS = 40;

/**
 * Finds how far a line runs beside a course at each of its points: the chain of sideways shifts under which what is
 * seen is likeliest, found exactly by dynamic programming. (Viterbi 1967; live-wire courses, Barrett and Mortensen 1997.)
 */
export function followLine(
  samples: LineSamples,
  halves: readonly number[],
  profile: LineProfile,
  { farthest, step }: Sideways,
): Float64Array {
  const count = halves.length;
  const side = Math.round(farthest / step);
  const shifts = Array.from({ length: 2 * side + 1 }, (_, k) => (k - side) * step);
  const costs = shifts.map(() => new Float64Array(count));
  for (let i = 0; i < samples.across.length; i++) {
    const node = Math.min(count - 1, Math.round(samples.place[i]));
    shifts.forEach((shift, k) => {
      costs[k][node] += unlikeliness(samples, halves, profile, i, shift);
    });
  }
  const best = shifts.map((shift, k) => costs[k][0] + 0.01 * shift * shift);
  const cameFrom: Int16Array[] = [];
  for (let node = 1; node < count; node++) {
    const before = best.slice();
    const from = new Int16Array(shifts.length);
    shifts.forEach((shift, k) => {
      let least = Infinity;
      shifts.forEach((other, j) => {
        const cost = before[j] + STIFFNESS * (shift - other) ** 2;
        if (cost < least) [least, from[k]] = [cost, j];
      });
      best[k] = least + costs[k][node] + 0.01 * shift * shift;
    });
    cameFrom.push(from);
  }
  const found = new Float64Array(count);
  let k = best.indexOf(Math.min(...best));
  for (let node = count - 1; node >= 0; node--) {
    found[node] = shifts[k];
    if (node > 0) k = cameFrom[node - 1][k];
  }
  return found;
}

/** Moves the points of a course sideways, to the side on which {@link lineCoordinates} counts positive. */
export function moveSideways(points: readonly Point[], shifts: Float64Array): Point[] {
  return points.map(([x, y], k): Point => {
    const [fromX, fromY] = points[Math.max(0, k - 1)];
    const [toX, toY] = points[Math.min(points.length - 1, k + 1)];
    const length = Math.hypot(toX - fromX, toY - fromY) || 1;
    return [x - (shifts[k] * (toY - fromY)) / length, y + (shifts[k] * (toX - fromX)) / length];
  });
}
