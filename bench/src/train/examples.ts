import type { Ground } from './grounds.ts';

/** What a classifier learns from: traits of candidates, and whether a fault was laid there. */
export interface Examples {
  /** Row after row. */
  readonly traits: Float64Array[];
  readonly labels: number[];
  /** The ground of each row, to keep whole photographs apart. */
  readonly grounds: Ground[];
}

export const noExamples = (): Examples => ({ traits: [], labels: [], grounds: [] });

/** A finding that is kept, as sure as it is before it is calibrated once more, and whether it is a fault. */
export interface Kept {
  readonly confidence: number;
  readonly label: 0 | 1;
}
