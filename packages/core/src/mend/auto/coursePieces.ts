import type { Point } from '../../target/target.ts';

/** A course cut into pieces of about equal length. */
export interface CoursePieces {
  readonly count: number;
  /** The piece of a place on the course: the number of the segment and how much of it is gone. */
  readonly at: (place: number) => number;
}

/** Cuts a course into pieces of about `length` pixels: what a line looks like changes with the ground it runs over. */
export function coursePieces(points: readonly Point[], length: number): CoursePieces {
  const gone = [0];
  for (let k = 1; k < points.length; k++)
    gone.push(gone[k - 1] + Math.hypot(points[k][0] - points[k - 1][0], points[k][1] - points[k - 1][1]));
  const all = gone[gone.length - 1];
  const count = Math.max(1, Math.round(all / length));
  const at = (place: number): number => {
    const k = Math.min(points.length - 2, Math.floor(place));
    const along = k < 0 ? 0 : gone[k] + (place - k) * (gone[k + 1] - gone[k]);
    return Math.min(count - 1, Math.floor((along / all) * count) || 0);
  };
  return { count, at };
}
