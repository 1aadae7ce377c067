import type { FinishBase } from '../stepBase.ts';
import type { Tone } from '../tone.ts';

/** Black, white and the middle, on encoded values. */
export interface LevelsStep extends FinishBase {
  readonly method: 'levels';
  /** One for all channels, or one for each. */
  readonly tones: readonly Tone[];
}
