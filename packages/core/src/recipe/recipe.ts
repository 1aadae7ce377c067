import type { Fence } from '../fence/fence.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import type { Mend } from '../mend/mend.ts';

/** A picture's ordered mends, as data: rendered again it gives the same pixels. */
export interface Recipe {
  readonly format: 'fennip-recipe';
  readonly version: 1;
  /** The upright picture the coordinates are for. */
  readonly picture: {
    readonly width: number;
    readonly height: number;
    /** SHA-256 of the original's file in hexadecimal; not known where it is missing. */
    readonly sha256?: string;
  };
  /** Guards and zones; none where it is missing. */
  readonly fences?: readonly Fence[];
  /** Later mends see what earlier ones laid down. */
  readonly mends: readonly Mend[];
  /** What is done to the picture after all mends, one step after the other; nothing where it is missing. */
  readonly finish?: readonly FinishStep[];
}

/** The recipe that leaves a picture as it is. @param picture its sides in pixels */
export const emptyRecipe = (picture: { width: number; height: number }): Recipe => ({
  format: 'fennip-recipe',
  version: 1,
  picture: { width: picture.width, height: picture.height },
  mends: [],
});
