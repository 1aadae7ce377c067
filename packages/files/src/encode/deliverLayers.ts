import type { LedgerEntry } from '@fennip/core/ledger';
import type { Raster } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import { FAULT_KINDS } from '@fennip/core/fault';
import { frameWhole, isFramingStep } from '@fennip/core/finish';
import { mendLayers, renderRecipe } from '@fennip/core/recipe';
import type { PictureHeader } from '../decode/header.ts';
import { wordsIn } from '@fennip/words';
import type { OpenLayer } from './openRaster.ts';
import { openRaster } from './openRaster.ts';

/** Mends that answer no fault of a list. */
const BY_HAND = 'By hand';

/**
 * A picture's recipe as a file in layers, all of them as the finish frames the picture: mends in groups by the kind of
 * what they answer.
 *
 * @param raster the original; it is mended in place
 * @param entries of its ledger, which name the layers
 */
export async function deliverLayers(
  raster: Raster,
  header: PictureHeader,
  recipe: Recipe,
  entries: readonly LedgerEntry[],
): Promise<Buffer> {
  // Layers are named for programs: in one language, whoever opens them.
  const { say } = wordsIn('en');
  const { original, mended, layers } = mendLayers(raster, recipe, header);
  const byMend = new Map(entries.flatMap((entry) => (entry.mend ? [[entry.mend.id, entry] as const] : [])));
  const methods = new Map(recipe.mends.map(({ id, method }) => [id, method]));
  const groups = new Map<string, OpenLayer[]>(
    [...FAULT_KINDS.map((kind) => say(`report.many.${kind}`)), BY_HAND].map((name) => [name, []]),
  );
  for (const { mend, rect, raster: pixels } of layers) {
    const entry = byMend.get(mend);
    const method = methods.get(mend);
    const done = method ? say(`report.method.${method}`) : '';
    const isByHand = entry === undefined || entry.polarity === null;
    const name = isByHand ? done : `${entry.number} ${say(`report.one.${entry.kind}`)}, ${done}`;
    groups.get(isByHand ? BY_HAND : say(`report.many.${entry.kind}`))?.push({ name, rect, raster: pixels });
  }
  const { finish = [] } = recipe;
  const isToned = finish.some((step) => step.on && !isFramingStep(step));
  if (isToned) renderRecipe(raster, { ...recipe, mends: [] }, header);
  const merged = isToned ? frameWhole(raster, finish) : mended;
  return openRaster(
    {
      original,
      groups: [...groups]
        .filter(([, inGroup]) => inGroup.length > 0)
        .map(([name, inGroup]) => ({ name, layers: inGroup })),
      finished: isToned ? merged : null,
      merged,
    },
    header,
  );
}
