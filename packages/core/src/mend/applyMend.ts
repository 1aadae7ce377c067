import { allowanceOn } from '../fence/allowance.ts';
import { boundPatch } from '../fence/remix.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { Canvas } from './canvas.ts';
import type { Mend } from './mend.ts';
import type { PaintStroke } from './mendBase.ts';
import type { SpotMend } from './spotMend.ts';
import { isTreatment } from './mend.ts';
import { describeMethod } from './methods.ts';
import { paintCoverage } from './paintCoverage.ts';
import { applyTreatment, treatmentFootprint, treatmentReads } from './treat/applyTreatment.ts';
import { keepOnly } from './only.ts';
import type { Patch } from '../raster/patch.ts';

/**
 * The rectangle a mend may change; empty when its target lies outside the picture.
 *
 * @returns whole pixels of the upright original
 */
export const mendFootprint = (mend: Mend, picture: PictureShape): Rect =>
  isTreatment(mend) ? treatmentFootprint(mend, picture) : describeMethod(mend).footprint(mend, picture);

/**
 * The rectangles a mend looks at. What lies outside them has no say in its result.
 *
 * @returns whole pixels of the upright original, inside the picture
 */
export const mendReads = (mend: Mend, picture: PictureShape): Rect[] =>
  isTreatment(mend)
    ? [treatmentReads(mend, treatmentFootprint(mend, picture), picture)]
    : describeMethod(mend).reads(mend, picture);

/** Only what is painted in of a patch. */
function painted(patch: Patch, paint: readonly PaintStroke[]): Patch {
  const share = paintCoverage(paint, patch.rect);
  return { ...patch, coverage: patch.coverage.map((amount, i) => amount * share[i]) };
}

/**
 * What a mend lays down of what its method made: what is painted in, only where it is lighter or darker if the mend says
 * so, by its share, bounded by the fences.
 */
export function finishPatch(mend: SpotMend, made: Patch, canvas: Canvas): Patch {
  if (isEmpty(made.rect)) return made;
  const patch = mend.paint ? painted(made, mend.paint) : made;
  const under = canvas.pixels.window(patch.rect).raster;
  const kept = mend.only ? keepOnly(mend.only, patch, under) : patch;
  const allowance = allowanceOn(canvas.fences, mend.zone, patch.rect, canvas.pixels.shape);
  const bounded = allowance ? boundPatch(kept, under, allowance) : kept;
  if (mend.share === 1 || describeMethod(mend).holdsShare?.(mend)) return bounded;
  return { ...bounded, coverage: bounded.coverage.map((amount) => amount * mend.share) };
}

/**
 * The patch that a mend lays down on the picture as mended so far: code values, not rounded, on its footprint. Pure:
 * the same pixels give the same patch. Light is worked out in linear light, paint on encoded values, as the method says.
 *
 * @param canvas encoded values of what {@link mendReads} asks for, 8 or 16 bit
 * @returns values in codes of the picture's depth, with a coverage of 0 to 1
 * @throws RecipeError when the mend names a zone that is not there
 */
export function applyMend(mend: Mend, canvas: Canvas): Patch {
  if (isTreatment(mend)) return applyTreatment(mend, canvas, pictureRect(canvas.pixels.shape));
  return finishPatch(mend, describeMethod(mend).apply(mend, canvas), canvas);
}
