import type { FinishBase } from '../stepBase.ts';

/** Local contrast of lightness alone, on encoded luma. */
export interface ContrastStep extends FinishBase {
  readonly method: 'contrast';
  /** How much of what stands out is added once more, -1 to 3. */
  readonly amount: number;
  /** Size of what is to stand out, in pixels. */
  readonly size: number;
}
