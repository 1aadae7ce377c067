import type { Placement } from './placement.ts';
import { place } from './placement.ts';
import type { TornCourse } from './tornCourse.ts';

/** All torn borders of some pieces that are laid, as one. */
export function togetherCourse(courses: readonly TornCourse[], placements: readonly Placement[]): TornCourse {
  return {
    points: courses.flatMap(({ points }, k) => points.map((point) => place(placements[k], point))),
    normals: courses.flatMap(({ normals }, k) =>
      normals.map((normal) => place({ angle: placements[k].angle, dx: 0, dy: 0 }, normal)),
    ),
    isTorn: courses.flatMap(({ isTorn }) => isTorn),
    isKnown: courses.flatMap(({ isKnown }) => isKnown),
  };
}
