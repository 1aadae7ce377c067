import type { Fault } from '../fault/fault.ts';

/** A place that was measured and scored, not yet decided about. */
export interface ScoredFault extends Omit<Fault, 'confidence'> {
  /** Log-odds of being a fault, if the picture had as many as those the classifier was trained on. */
  readonly score: number;
  /** How well its shape explains what is seen: tells which of several at one place has the right one. */
  readonly fit: number;
}

/** A finding that still knows its score and its fit. */
export interface Shaped extends ScoredFault {
  readonly confidence: number;
}

export function withoutFit(shaped: Shaped): Fault {
  const { fit, score, ...fault } = shaped;
  void [fit, score];
  return fault;
}

/**
 * Specks and lines with a lower log-odds only count: even where they are as frequent as on any picture, which is less than
 * where the classifiers were trained, they are listed at no sensitivity.
 */
export const LEAST_SCORE = -3;
