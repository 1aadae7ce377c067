import type { Fault } from './fault.ts';

/** A place that was measured and scored, not yet decided about. */
export interface ScoredFault extends Omit<Fault, 'confidence'> {
  /** Log-odds of being a fault, if the picture had as many as those the classifier was trained on. */
  readonly score: number;
  /** How well its shape explains what is seen: tells which of several at one place has the right one. */
  readonly fit: number;
}
