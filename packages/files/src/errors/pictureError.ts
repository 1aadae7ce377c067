import type { Said } from '@fennip/words';
import { SaidError } from '@fennip/words';

/** Why a file was refused. */
export type PictureProblem =
  'missing' | 'not a picture' | 'unsupported' | 'broken' | 'too many pixels' | 'cannot hold';

/** A picture file that cannot be used, with what is to be said of it. */
export class PictureError extends SaidError {
  override readonly name = 'PictureError';
  constructor(
    readonly problem: PictureProblem,
    thing: Said,
    options?: ErrorOptions,
  ) {
    super(thing, options);
  }
}
