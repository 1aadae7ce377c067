import type { Point } from '../../target/target.ts';
import type { FinishBase } from '../stepBase.ts';

/** A smooth curve through points, on encoded values, the same for all channels. */
export interface CurveStep extends FinishBase {
  readonly method: 'curve';
  /** Where a value comes to lie, both 0 to 1, from left to right; at least two. */
  readonly points: readonly Point[];
}
