import type { Fault } from '../fault/fault.ts';
import type { ChartedPlace } from './chartFaults.ts';

/** A finding nearer to a charted place than this, in the larger one's radii, is that place. */
const SAME = 0.9;

/**
 * Findings of a frame with the places of a chart: what a chart knows takes the place of what was found there. The
 * surest first.
 */
export function withCharted<T extends Fault>(
  found: readonly T[],
  charted: readonly ChartedPlace[],
): (T | Fault)[] {
  const known = charted.flatMap((place) => ('fault' in place ? [place.fault] : []));
  const isKnown = ({ kind, x, y, r }: Fault): boolean =>
    kind === 'speck' &&
    known.some((fault) => Math.hypot(fault.x - x, fault.y - y) < SAME * Math.max(fault.r, r));
  return [...known, ...found.filter((fault) => !isKnown(fault))].sort(
    (a, b) => b.confidence - a.confidence || a.y - b.y || a.x - b.x,
  );
}
