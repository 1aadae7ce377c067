import type { Raster, Recipe } from '@fennip/core';
import { frameWhole, renderRecipe } from '@fennip/core';
import { decodePicture } from '../decode/decodePicture.ts';
import type { Limits, PictureHeader } from '../decode/header.ts';
import type { DeliverySettings } from './deliverPicture.ts';
import { deliverPicture } from './deliverPicture.ts';

/**
 * Has what is no longer used collected before more is taken: pixels lie outside of the heap, where the collector does
 * not see how much they are. Does nothing unless the process was started with `--expose-gc`.
 */
const collect = (): void => globalThis.gc?.();

/** The original as its recipe makes it. What it was before is let go when this returns. */
async function finished(
  original: string,
  recipe: Recipe,
  limits: Limits,
  done: (count: number) => void,
): Promise<{ raster: Raster; header: PictureHeader }> {
  const { raster, header } = await decodePicture(original, limits);
  collect();
  renderRecipe(raster, recipe, { ...(header.transfer ? { transfer: header.transfer } : {}), done });
  return { raster: frameWhole(raster, recipe.finish ?? []), header };
}

/**
 * A picture's file made anew by its recipe: the very pixels that the table showed, as they are handed over.
 *
 * @param original path of the file
 * @param done told after each mend how many are done
 * @throws PictureError when the file cannot be read, or the format cannot hold what is asked for
 */
export async function deliverRecipe(
  original: string,
  recipe: Recipe,
  settings: DeliverySettings,
  limits: Limits,
  done: (count: number) => void,
): Promise<Buffer> {
  const { raster, header } = await finished(original, recipe, limits, done);
  collect();
  return deliverPicture(raster, header, settings);
}
