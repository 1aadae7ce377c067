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
