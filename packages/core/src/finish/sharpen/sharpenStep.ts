import type { FinishBase } from '../stepBase.ts';

/** What sharpens: what a blur takes away is added, or the picture's own blur is undone. */
export const SHARPEN_WAYS = ['unsharp', 'deconvolve'] as const;

/** Sharpening of lightness alone. */
export interface SharpenStep extends FinishBase {
  readonly method: 'sharpen';
  /** `unsharp` works on encoded luma; `deconvolve` undoes a Gaussian blur in linear light. */
  readonly way: (typeof SHARPEN_WAYS)[number];
  /** Standard deviation of the blur, in pixels. */
  readonly radius: number;
  /** How much of the difference is added, 0 to 5. */
  readonly amount: number;
  /** Differences up to this are grain and are not sharpened, in encoded luma, 0 to 1. */
  readonly threshold: number;
}
