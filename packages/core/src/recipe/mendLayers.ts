import { frameWhole } from '../finish/framing/frameWhole.ts';
import type { Framing } from '../finish/framing/framing.ts';
import { framingOf } from '../finish/framing/framing.ts';
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
import { intersectRects } from '../raster/rect.ts';
import { pictureRect, wholeWindow } from '../raster/window.ts';
import type { Recipe } from './recipe.ts';
import type { RenderOptions } from './render.ts';
import { renderRecipe } from './render.ts';

/** What one mend left on the picture: values where it was the last to change them, nothing elsewhere. */
export interface MendLayer {
  /** Id of the mend. */
  readonly mend: string;
  /** In the picture as it is framed. */
  readonly rect: Rect;
  /** The colours, and an alpha that is full or nothing. */
  readonly raster: Raster;
}

/** A picture and what was mended on it, as the finish frames them. */
export interface LayeredMends {
  /** As it came in. */
  readonly original: Raster;
  /** With all mends. Where nothing frames it, it is the very raster that was mended. */
  readonly mended: Raster;
  /** In the order of the recipe; over the original they are the mended picture, in whatever order they lie. */
  readonly layers: readonly MendLayer[];
}

/** Pixels that no mend changed. */
const NOBODY = -1;

function isOther(a: Raster, b: Raster, i: number, j: number): boolean {
  for (let c = 0; c < colourChannels(a.planes.length); c++)
    if (a.planes[c][i] !== b.planes[c][j]) return true;
  return false;
}

function noteChanges(owner: Int32Array, before: Raster, after: Raster, rect: Rect, index: number): void {
  for (let y = rect.top; y < rect.top + rect.height; y++)
    for (let x = rect.left; x < rect.left + rect.width; x++)
      if (isOther(after, before, y * after.stride + x, y * before.stride + x))
        owner[y * after.width + x] = index;
  copyRaster(viewRaster(after, rect), before, rect.left, rect.top);
}

/** Mends a picture in place. @returns for each pixel which mend was the last to change it */
function mendNoting(raster: Raster, recipe: Recipe, options: RenderOptions): Int32Array {
  const { finish, ...mends } = recipe;
  void finish;
  const owner = new Int32Array(raster.width * raster.height).fill(NOBODY);
  const before = cloneRaster(raster);
  const { picture } = wholeWindow(raster);
  renderRecipe(raster, mends, {
    ...options,
    done: (count) => {
      const footprint = mendFootprint(recipe.mends[count - 1], picture);
      noteChanges(owner, before, raster, intersectRects(footprint, pictureRect(picture)), count - 1);
      options.done?.(count);
    },
  });
  return owner;
}

/** How far from where a framed value lies it reads others, in whole pixels: Lanczos' kernel has three lobes. */
const READS = 4;

/** The mend that made a framed pixel another: the nearest one of those that it reads. */
function framedOwner(owner: Int32Array, picture: Raster, framing: Framing, x: number, y: number): number {
  const [px, py] = framing.toOriginal(x + 0.5, y + 0.5).map(Math.floor);
  const at = (column: number, row: number): number =>
    column < 0 || row < 0 || column >= picture.width || row >= picture.height
      ? NOBODY
      : owner[row * picture.width + column];
  let [nearest, least] = [NOBODY, Infinity];
  for (let dy = -READS; dy <= READS; dy++)
    for (let dx = -READS; dx <= READS; dx++) {
      const square = dx * dx + dy * dy;
      if (square >= least || at(px + dx, py + dy) === NOBODY) continue;
      [nearest, least] = [at(px + dx, py + dy), square];
    }
  return nearest;
}

interface Extent {
  left: number;
  top: number;
  right: number;
  bottom: number;
}

/** Where each mend's pixels lie, by its place in the recipe. */
function extentsOf(owner: Int32Array, { width, height }: Raster): Map<number, Extent> {
  const extents = new Map<number, Extent>();
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const index = owner[y * width + x];
      if (index === NOBODY) continue;
      const own = extents.get(index) ?? { left: x, top: y, right: x, bottom: y };
      own.left = Math.min(own.left, x);
      own.right = Math.max(own.right, x);
      own.bottom = y;
      extents.set(index, own);
    }
  return extents;
}

function layerOf(mended: Raster, owner: Int32Array, extent: Extent, index: number): Omit<MendLayer, 'mend'> {
  const { left, top } = extent;
  const rect = { left, top, width: extent.right - left + 1, height: extent.bottom - top + 1 };
  const colours = colourChannels(mended.planes.length);
  const raster = createRaster(rect.width, rect.height, colours + 1, mended.depth);
  const full = fullScale(mended.depth);
  for (let y = 0, onto = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++, onto++) {
      if (owner[(top + y) * mended.width + left + x] !== index) continue;
      for (let c = 0; c < colours; c++)
        raster.planes[c][onto] = mended.planes[c][(top + y) * mended.stride + left + x];
      raster.planes[colours][onto] = full;
    }
  return { rect, raster };
}

/**
 * Carries out the mends of a recipe in place and gives what each left as a layer of its own, as the finish frames it;
 * its tones are left out. Every pixel belongs to the last mend that changed it. Where framing reads between pixels a
 * framed one belongs to the nearest mend that it reads, so that the layers over the framed original are the framed mended
 * picture to the very value.
 *
 * @param raster encoded values, 8 or 16 bit, of the whole upright picture
 * @throws RecipeError when the recipe is for a picture of other sides
 */
export function mendLayers(raster: Raster, recipe: Recipe, options: RenderOptions = {}): LayeredMends {
  const { finish = [] } = recipe;
  const framing = framingOf(raster, finish);
  const original = framing ? frameWhole(raster, finish) : cloneRaster(raster);
  const owner = mendNoting(raster, recipe, options);
  const mended = frameWhole(raster, finish);
  const seen = new Int32Array(mended.width * mended.height).fill(NOBODY);
  for (let y = 0, i = 0; y < mended.height; y++)
    for (let x = 0; x < mended.width; x++, i++)
      if (isOther(mended, original, y * mended.stride + x, y * original.stride + x))
        seen[i] = framing ? framedOwner(owner, raster, framing, x, y) : owner[i];
  const extents = extentsOf(seen, mended);
  const layers = recipe.mends.flatMap(({ id }, index) => {
    const extent = extents.get(index);
    return extent ? [{ mend: id, ...layerOf(mended, seen, extent, index) }] : [];
  });
  return { original, mended, layers };
}
