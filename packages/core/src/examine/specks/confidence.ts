import type { Candidate } from './candidates.ts';
import type { SpeckMeasure } from './measureSpeck.ts';

/** Spread that any surroundings have, in encoded luma. */
const LEAST_SPREAD = 0.6 / 255;

const logistic = (t: number): number => 1 / (1 + Math.exp(-t));

/**
 * How sure it is that a candidate is a speck, 0 to 1: depth against the spread of the ring and against the usual
 * contrast of its scale, evenness inside, a profile that falls without a ripple. Weights set by hand.
 */
export function speckConfidence(candidate: Candidate, measure: SpeckMeasure): number {
  const standsOut = Math.log(measure.depth / (measure.spread + LEAST_SPREAD) + 1e-3);
  const unusual = Math.log(candidate.significance);
  const evenness = Math.max(-1, Math.min(1, measure.evenness));
  return logistic(
    -7.5 +
      1.6 * standsOut +
      1.6 * unusual +
      2.5 * evenness -
      4 * Math.min(1, measure.ripple) -
      tooFaint(measure),
  );
}

/** A depth of few code values is doubtful however even it is. */
const tooFaint = (measure: SpeckMeasure): number => (measure.depth < 2 / 255 ? 3 : 0);
