import type { MethodName } from '../spotMend.ts';
import type { Because } from './because.ts';

/** Why a method was chosen, as data: the interface makes a sentence of it. */
export interface Reason {
  readonly method: MethodName;
  readonly because: Because;
  /** How much of the fault's own detail can be recovered, 0 to 1; null where it was not measured. */
  readonly recoverability: number | null;
  /** Log likelihood by which a veil explains the fault; null where none was fitted. */
  readonly evidence: number | null;
}
