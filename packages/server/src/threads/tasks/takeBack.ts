import type { Mend } from '@fennip/core/mend';
import type { Recipe } from '@fennip/core/recipe';
import { decodePicture } from '@fennip/files';
import type { TakenBackMend } from '../takenBack.ts';
import { takenBack } from '../takenBack.ts';
import type { Original } from './original.ts';
import { decodeOriginal } from './original.ts';

export interface TakeBackInput extends Original {
  /** Path of the file that came back. */
  readonly returned: string;
  readonly sent: Recipe;
  readonly mends: readonly Mend[];
  /** Of the mend to come. */
  readonly id: string;
}

/** Holds a picture that comes back against what was sent. @throws PictureError when it does not fit */
export async function takeBack({
  original,
  returned,
  mostPixels,
  ...task
}: TakeBackInput): Promise<TakenBackMend> {
  const own = await decodeOriginal({ original, mostPixels });
  return takenBack(own, await decodePicture(returned, { pixels: mostPixels }), task);
}
