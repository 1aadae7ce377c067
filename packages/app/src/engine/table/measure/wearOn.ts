import type { Wear, WornArea } from '@fennip/core/check';
import { findWear, wearReads, wornAreas } from '@fennip/core/check';
import type { OpenPicture } from '../openPicture.ts';

/** What shows again and again on a mended picture, and where. */
export interface Worn {
  readonly mends: readonly Wear[];
  readonly areas: readonly WornArea[];
}

/** Mends that show the same texture as others, on the picture as it is mended. */
export async function wearOn({ recipe, mended, tiles, turn }: OpenPicture): Promise<Worn> {
  await turn;
  const rects = wearReads(recipe.mends, mended.pixels);
  await tiles.ready(rects.map((rect) => mended.needs(rect)));
  const mends = findWear(recipe.mends, mended.pixels);
  return { mends, areas: wornAreas(mends, recipe.mends, tiles.picture) };
}
