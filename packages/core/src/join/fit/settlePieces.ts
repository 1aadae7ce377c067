import type { Join } from '../assembly.ts';
import { indexCourse } from './indexedCourse.ts';
import { joinConfidence } from './joinConfidence.ts';
import type { Placement } from './placement.ts';
import { after, inverse } from './placement.ts';
import { WIDE, fitOf, settleFit } from './refineFit.ts';
import { togetherCourse } from './togetherCourse.ts';
import type { TornCourse } from './tornCourse.ts';

/** Rounds in which each piece is fitted anew to all others. */
const ROUNDS = 6;
/** Neighbours whose join is less sure than this are not named as such. */
const LEAST_NAMED = 0.05;

/** A piece's border and where it lies. */
export interface LaidCourse {
  readonly number: number;
  readonly course: TornCourse;
  readonly placement: Placement;
}

/**
 * Fits each piece anew to all that lie around it; the first one stays.
 *
 * @param step of the courses, in pixels
 */
export function settlePieces(laid: readonly LaidCourse[], step: number): LaidCourse[] {
  const settled = [...laid];
  for (let round = 0; round < ROUNDS; round++)
    for (let k = 1; k < settled.length; k++) {
      const others = settled.filter((_, other) => other !== k);
      const around = togetherCourse(
        others.map(({ course }) => course),
        others.map(({ placement }) => placement),
      );
      const { course, placement } = settled[k];
      const onto = settleFit(indexCourse(around, WIDE * step, step), course, placement, step);
      settled[k] = { ...settled[k], placement: onto };
    }
  return settled;
}

/** How sure each two of laid pieces lie beside one another, and how well. @param step of the courses, in pixels */
export function joinsOf(laid: readonly LaidCourse[], step: number): Join[] {
  return laid.flatMap((first, i) => {
    const indexed = indexCourse(first.course, WIDE * step, step);
    return laid.slice(i + 1).flatMap((second): Join[] => {
      const onto = after(second.placement, inverse(first.placement));
      const fit = fitOf(indexed, second.course, onto, step);
      const confidence = joinConfidence(fit, step);
      if (fit.length === 0 || confidence < LEAST_NAMED) return [];
      const { length, misfit } = fit;
      return [{ pieces: [first.number, second.number], confidence, length, misfit }];
    });
  });
}
