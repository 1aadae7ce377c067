import type { FinishBase } from '../stepBase.ts';

/** A Gaussian blur in linear light. */
export interface SoftenStep extends FinishBase {
  readonly method: 'soften';
  /** Its standard deviation, in pixels. */
  readonly radius: number;
}
