import type { Placement } from './placement.ts';
import { indexCourse } from './indexedCourse.ts';
import { joinConfidence } from './joinConfidence.ts';
import { matchCourses } from './matchCourses.ts';
import { WIDE, refineFit } from './refineFit.ts';
import type { TornCourse } from './tornCourse.ts';

/** One way in which two pieces may lie beside one another. */
export interface PairFit {
  /** Numbers of the two. */
  readonly pieces: readonly [number, number];
  /** Of the second beside the first. */
  readonly placement: Placement;
  /** 0 to 1. */
  readonly confidence: number;
}

/**
 * Fits every two pieces along their tears.
 *
 * @param step of the courses, in pixels
 * @returns the surest first
 */
export function fitPairs(courses: readonly TornCourse[], step: number): PairFit[] {
  const fits: PairFit[] = [];
  courses.forEach((first, a) => {
    const indexed = indexCourse(first, WIDE * step, step);
    for (let b = a + 1; b < courses.length; b++)
      for (const start of matchCourses(first, courses[b], step)) {
        const fit = refineFit(indexed, courses[b], start, step);
        if (!fit) continue;
        const { placement } = fit;
        fits.push({ pieces: [a, b], placement, confidence: joinConfidence(fit, step) });
      }
  });
  return fits.sort((one, other) => other.confidence - one.confidence);
}
