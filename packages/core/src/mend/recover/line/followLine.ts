import { columnOf } from '../../../measure/columnOf.ts';
import type { Point } from '../../../target/target.ts';
import { cheapestCourse } from './cheapestCourse.ts';
import type { LineProfile, LineSamples } from './lineProfile.ts';
import { unlikeliness } from './lineProfile.ts';

/** How far a course may be moved sideways at its points, in pixels. */
export interface Sideways {
  readonly farthest: number;
  readonly step: number;
}

/** What a bend costs: the square of the difference of neighbouring shifts, in pixels. */
const STIFFNESS = 40;
/** What tells nothing either way stays near: what the square of a shift costs at each point. */
const NEARER = 0.01;

/**
 * Finds how far a line runs beside a course at each of its points: the chain of sideways shifts under which what is
 * seen is likeliest (live-wire courses, Barrett and Mortensen 1997).
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
  const costs = shifts.map((shift) => new Float64Array(count).fill(NEARER * shift * shift));
  for (let i = 0; i < samples.across.length; i++) {
    const node = Math.min(count - 1, Math.round(samples.place[i]));
    shifts.forEach((shift, k) => {
      costs[k][node] += unlikeliness(samples, halves, profile, i, shift);
    });
  }
  const course = cheapestCourse(costs, (from, to) => STIFFNESS * (shifts[from] - shifts[to]) ** 2);
  return columnOf(Float64Array, course, (k) => shifts[k]);
}

/** Moves the points of a course sideways, to the side on which {@link lineCoordinates} counts positive. */
export function moveSideways(points: readonly Point[], shifts: ArrayLike<number>): Point[] {
  return points.map(([x, y], k): Point => {
    const [fromX, fromY] = points[Math.max(0, k - 1)];
    const [toX, toY] = points[Math.min(points.length - 1, k + 1)];
    const length = Math.hypot(toX - fromX, toY - fromY) || 1;
    return [x - (shifts[k] * (toY - fromY)) / length, y + (shifts[k] * (toX - fromX)) / length];
  });
}
