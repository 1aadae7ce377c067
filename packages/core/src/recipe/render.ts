import { applyMend } from '../mend/applyMend.ts';
import { layPatch } from '../mend/patch.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Transfer } from '../colour/transfer.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, copyRaster, viewRaster } from '../raster/raster.ts';
import { narrowWindow, wholeWindow } from '../raster/window.ts';
import { RecipeError } from '../errors.ts';
import type { Fence } from '../fence/fence.ts';
import { applyFinish, finishReach } from '../finish/applyFinish.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import type { Canvas } from '../mend/canvas.ts';
import { isTreatment } from '../mend/mend.ts';
import { applyTreatment, treatmentFootprint } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import type { Window } from '../raster/window.ts';
import { piecesOn } from './pieces.ts';
import type { Recipe } from './recipe.ts';

export interface RenderOptions {
  /** What the encoded values mean in light, for each colour channel; sRGB where it is missing. */
  readonly transfer?: readonly Transfer[];
  /** Called after each mend with how many are done. */
  readonly done?: (count: number) => void;
}

/**
 * Carries out a recipe on a whole picture, in place: one mend after the other, each on what the ones before it left,
 * then the values of its finish. It stays upright and whole: how it is framed is for `frameWhole`.
 *
 * @throws RecipeError when the recipe is for a picture of other sides
 */
export function renderRecipe(raster: Raster, recipe: Recipe, { transfer, done }: RenderOptions = {}): void {
  const { width, height } = recipe.picture;
  if (width !== raster.width || height !== raster.height)
    throw new RecipeError(
      'picture',
      `is ${width} x ${height}, but the picture is ${raster.width} x ${raster.height}`,
    );
  const pixels = pixelsOf(raster, transfer);
  const whole = wholeWindow(raster);
  const readsOriginal = recipe.mends.some((mend) => mend.method === 'clone' && mend.reads === 'original');
  const original = readsOriginal ? pixelsOf(cloneRaster(raster), transfer) : pixels;
  const canvas = { pixels, original, fences: recipe.fences ?? [] };
  recipe.mends.forEach((mend, index) => {
    if (mend.on && isTreatment(mend)) layTreatment(mend, canvas, whole, transfer);
    else if (mend.on) layPatch(applyMend(mend, canvas), whole);
    done?.(index + 1);
  });
  const { finish = [], fences = [] } = recipe;
  if (finish.length > 0) finishInBands(raster, finish, fences, transfer);
}

/** A whole picture in floating point would take four times its memory: it is finished a band at a time. */
const BAND = 128;

/**
 * Finishes a picture in place. A band is written back when the one after it is done, so that none sees what is finished
 * already: no step looks farther than one band.
 */
function finishInBands(
  raster: Raster,
  finish: readonly FinishStep[],
  fences: readonly Fence[],
  transfer: RenderOptions['transfer'],
): void {
  const whole = wholeWindow(raster, transfer);
  const reach = finishReach(finish);
  const step = Math.max(BAND, reach);
  let write = (): void => undefined;
  for (let top = 0; top < raster.height; top += step) {
    const band = { left: 0, top, width: raster.width, height: Math.min(step, raster.height - top) };
    const seen = narrowWindow(whole, { ...band, top: top - reach, height: band.height + 2 * reach });
    const finished = applyFinish(seen, finish, fences);
    write();
    write = () => copyRaster(viewRaster(finished, { ...band, top: top - seen.top }), raster, 0, top);
  }
  write();
}

/** Carries out a treatment piece by piece, each reading what was there before any of them. */
function layTreatment(
  mend: Treatment,
  { fences, original }: Canvas,
  whole: Window,
  transfer: RenderOptions['transfer'],
): void {
  const before = pixelsOf(cloneRaster(whole.raster), transfer);
  const canvas = { pixels: before, original, fences };
  for (const piece of piecesOn(treatmentFootprint(mend, whole.picture)))
    layPatch(applyTreatment(mend, canvas, piece), whole);
}
