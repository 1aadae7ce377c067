import type { Point } from '../../target/target.ts';
import { normalsOf, resampleRing, smoothRing } from '../pieces/course.ts';
import type { PieceBorder } from '../pieces/traceBorder.ts';

/** The border of a piece's picture, in even steps, as it is matched with others. */
export interface TornCourse {
  readonly points: readonly Point[];
  readonly normals: readonly Point[];
  /** False along straight borders, which are the print's own or were cut. */
  readonly isTorn: readonly boolean[];
  /** True where it is known how far the picture reaches. */
  readonly isKnown: readonly boolean[];
}

/** A border that strays less than this from a straight line over the length of {@link STRAIGHT} steps is straight, in steps. */
const EVEN = 0.6;
const STRAIGHT = 48;
/** A point's likeness on a finer course lies at most so many points on. */
const AHEAD = 60;

/** The farthest that points stray from the line between the first and the last of a run, in pixels. */
function strayOf(points: readonly Point[], first: number, length: number): number {
  const count = points.length;
  const [ax, ay] = points[first % count];
  const [bx, by] = points[(first + length) % count];
  const span = Math.hypot(bx - ax, by - ay) || 1;
  let most = 0;
  for (let k = 1; k < length; k++) {
    const [x, y] = points[(first + k) % count];
    most = Math.max(most, Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / span);
  }
  return most;
}

/** For each point of a course the index of the point of another, walked the same way round, that is nearest to it. */
function nearestAlong(course: readonly Point[], other: readonly Point[]): number[] {
  let at = 0;
  return course.map(([x, y], i) => {
    const away = (k: number): number => {
      const [ox, oy] = other[k % other.length];
      return (ox - x) ** 2 + (oy - y) ** 2;
    };
    const window = i === 0 ? other.length : AHEAD;
    let best = at;
    for (let k = at; k <= at + window; k++) if (away(k) < away(best)) best = k;
    at = best;
    return best % other.length;
  });
}

/**
 * @param step from point to point, in pixels
 */
export function tornCourseOf(
  { picture, isKnown }: Pick<PieceBorder, 'picture' | 'isKnown'>,
  step: number,
): TornCourse {
  const points = resampleRing(smoothRing(picture, 1.2), step);
  const isTorn = new Array<boolean>(points.length).fill(true);
  for (let i = 0; i < points.length; i++)
    if (strayOf(points, i, STRAIGHT) < EVEN * step)
      for (let k = 0; k <= STRAIGHT; k++) isTorn[(i + k) % points.length] = false;
  const known = nearestAlong(points, picture).map((k) => isKnown[k]);
  return { points, normals: normalsOf(points, 2), isTorn, isKnown: known };
}
