import type { MaskTarget } from '../../target/target.ts';
import type { MendBase } from '../mendBase.ts';

/** Closes a thin line from both of its sides, part by part where it crosses from one surface to another. */
export interface BridgeMend extends MendBase {
  readonly method: 'bridge';
  /**
   * How a crease lights the sheet beside it: natural logarithms of linear light by distance across, a pixel apart and an
   * odd number of them, the middle one on the course. Undone before the line is closed.
   */
  readonly relief?: readonly number[];
  /** What other faults hid when it was made: nothing is closed from there. */
  readonly avoid?: MaskTarget;
}
