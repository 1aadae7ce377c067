import type { MaskTarget, Target } from '../../target/target.ts';
import type { MendBase } from '../mendBase.ts';
import type { Guide } from './guide.ts';
import type { PatchVariant } from './withVariants.ts';

/** Fills what is gone from the rest of the picture, patch by patch, along guides for edges that must go on. */
export interface RebuildMend extends MendBase {
  readonly method: 'rebuild';
  /** A whole number from 0: tells one proposal from another. The same seed gives the same pixels. */
  readonly seed: number;
  readonly guides: readonly Guide[];
  /** What alone may be taken from; all that is allowed where it is missing. */
  readonly from?: Target;
  /** Other faults that were open when it was made: neither looked at nor taken from. */
  readonly avoid?: MaskTarget;
  /** How patches may be changed besides being taken as they are. */
  readonly variants?: readonly PatchVariant[];
}
