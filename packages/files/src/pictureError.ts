/** Why a file was refused. */
export type PictureProblem =
  'missing' | 'not a picture' | 'unsupported' | 'broken' | 'too many pixels' | 'cannot hold';

/** A picture file that cannot be used, with a sentence for the restorer. */
export class PictureError extends Error {
  override readonly name = 'PictureError';
  constructor(
    readonly problem: PictureProblem,
    sentence: string,
    options?: ErrorOptions,
  ) {
    super(sentence, options);
  }
}
