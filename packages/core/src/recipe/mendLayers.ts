import { mendFootprint } from '../mend/applyMend.ts';
import type { Raster } from '../raster/raster.ts';
import {
  cloneRaster,
  colourChannels,
  copyRaster,
  createRaster,
  fullScale,
  viewRaster,
} from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { pictureRect, wholeWindow } from '../raster/window.ts';
import type { Recipe } from './recipe.ts';
import type { RenderOptions } from './render.ts';
import { renderRecipe } from './render.ts';

/** What one mend left on the picture: values where it was the last to change them, nothing elsewhere. */
export interface MendLayer {
  /** Id of the mend. */
  readonly mend: string;
  readonly rect: Rect;
  /** The colours, and an alpha that is full or nothing. */
  readonly raster: Raster;
}

/** Pixels that no mend changed. */
const NOBODY = -1;

function noteChanges(owner: Int32Array, before: Raster, after: Raster, rect: Rect, index: number): void {
  const colours = colourChannels(after.planes.length);
  for (let y = rect.top; y < rect.top + rect.height; y++)
    for (let x = rect.left; x < rect.left + rect.width; x++) {
      const i = y * after.stride + x;
      for (let c = 0; c < colours; c++)
        if (after.planes[c][i] !== before.planes[c][i]) {
          owner[y * after.width + x] = index;
          break;
        }
    }
  copyRaster(viewRaster(after, rect), before, rect.left, rect.top);
}

function layerOf(
  mended: Raster,
  owner: Int32Array,
  rect: Rect,
  index: number,
): Omit<MendLayer, 'mend'> | null {
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (let y = rect.top; y < rect.top + rect.height; y++)
    for (let x = rect.left; x < rect.left + rect.width; x++)
      if (owner[y * mended.width + x] === index) {
        [left, right] = [Math.min(left, x), Math.max(right, x)];
        [top, bottom] = [Math.min(top, y), Math.max(bottom, y)];
      }
  if (left > right) return null;
  const own = { left, top, width: right - left + 1, height: bottom - top + 1 };
  const colours = colourChannels(mended.planes.length);
  const raster = createRaster(own.width, own.height, colours + 1, mended.depth);
  const full = fullScale(mended.depth);
  for (let y = 0, onto = 0; y < own.height; y++)
    for (let x = 0; x < own.width; x++, onto++) {
      if (owner[(top + y) * mended.width + left + x] !== index) continue;
      for (let c = 0; c < colours; c++)
        raster.planes[c][onto] = mended.planes[c][(top + y) * mended.stride + left + x];
      raster.planes[colours][onto] = full;
    }
  return { rect: own, raster };
}

/**
 * Carries out the mends of a recipe in place and gives what each left as a layer of its own. Every pixel belongs to the
 * last mend that changed it, so that the layers over the original are the mended picture in whatever order they lie.
 * The finish is left out.
 *
 * @throws RecipeError when the recipe is for a picture of other sides
 */
export function mendLayers(raster: Raster, recipe: Recipe, options: RenderOptions = {}): MendLayer[] {
  const { finish, ...mends } = recipe;
  void finish;
  const owner = new Int32Array(raster.width * raster.height).fill(NOBODY);
  const before = cloneRaster(raster);
  const { picture } = wholeWindow(raster);
  const footprints = recipe.mends.map((mend) =>
    intersectRects(mendFootprint(mend, picture), pictureRect(picture)),
  );
  renderRecipe(raster, mends, {
    ...options,
    done: (count) => {
      const rect = footprints[count - 1];
      if (!isEmpty(rect)) noteChanges(owner, before, raster, rect, count - 1);
      options.done?.(count);
    },
  });
  return recipe.mends.flatMap(({ id }, index) => {
    const layer = layerOf(raster, owner, footprints[index], index);
    return layer ? [{ mend: id, ...layer }] : [];
  });
}
