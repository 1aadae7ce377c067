import type { Transfer } from '@fennip/core/light';
import type { Raster } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import { frameWhole } from '@fennip/core/finish';
import { sharedRaster } from '@fennip/core/raster';
import { frameInParts, renderInParts, renderRecipe } from '@fennip/core/recipe';
import type { Threads } from './threads.ts';
import { startThreads } from './threads.ts';

/** A picture as a recipe mends, finishes and frames it, in threads that stand. It is changed in place where it is shared. */
export async function renderAmongThreads(
  { renderers }: Threads,
  raster: Raster,
  recipe: Recipe,
  transfer?: readonly Transfer[],
): Promise<Raster> {
  const shared = sharedRaster(raster);
  await renderInParts(shared, recipe, renderers, transfer ? { transfer } : {});
  return frameInParts(shared, recipe.finish ?? [], renderers);
}

/** Fewer mends than these, and finishing pictures with fewer pixels, are done before threads would have started. */
const WORTH_THREADS = { mends: 400, pixels: 8e6 };

/** A picture as a recipe mends, finishes and frames it, in threads where that pays; the result is the same either way. */
export async function renderInThreads(
  raster: Raster,
  recipe: Recipe,
  { transfer }: { readonly transfer?: readonly Transfer[] },
): Promise<Raster> {
  const { mends, finish = [] } = recipe;
  const isLong = finish.length > 0 && raster.width * raster.height > WORTH_THREADS.pixels;
  if (mends.length < WORTH_THREADS.mends && !isLong) {
    renderRecipe(raster, recipe, transfer ? { transfer } : {});
    return frameWhole(raster, finish);
  }
  const threads = startThreads();
  try {
    return await renderAmongThreads(threads, raster, recipe, transfer);
  } finally {
    await threads.close();
  }
}
