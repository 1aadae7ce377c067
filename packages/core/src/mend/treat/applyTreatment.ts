import { allowanceOn } from '../../fence/allowance.ts';
import { REMIX_REACH, boundPatch } from '../../fence/remix.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { cloneRaster } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { fieldOn, footprintRect } from '../../target/targetField.ts';
import type { Canvas } from '../canvas.ts';
import { keepOnly } from '../only.ts';
import { paintBounds, paintCoverage } from '../paintCoverage.ts';
import type { Patch } from '../../raster/patch.ts';
import { EMPTY_PATCH, cropPatch } from '../../raster/patch.ts';
import { fillExcluded } from './fillExcluded.ts';
import type { Treatment } from './treatment.ts';
import { describeTreatment } from './treatments.ts';

/** How far beyond a pixel a treatment looks to tell its new value, in pixels. */
export const treatmentReach = (mend: Treatment): number => describeTreatment(mend).reach(mend) + REMIX_REACH;

/**
 * The rectangle a treatment may change: its target, inside what is painted in, inside the picture.
 *
 * @returns whole pixels of the upright original
 */
export function treatmentFootprint(mend: Treatment, picture: PictureShape): Rect {
  const footprint = footprintRect(mend, picture);
  const painted = mend.paint && paintBounds(mend.paint);
  return painted ? intersectRects(footprint, painted) : footprint;
}

/** The rectangle a treatment looks at for a piece of the picture. */
export const treatmentReads = (mend: Treatment, piece: Rect, picture: PictureShape): Rect =>
  intersectRects(growRect(piece, treatmentReach(mend)), pictureRect(picture));

/** 1 where a fence lets nothing be taken from. */
function exclusionMask(allowance: Float32Array): Uint8Array {
  const excluded = new Uint8Array(allowance.length);
  for (let i = 0; i < excluded.length; i++) if (allowance[i] < 1) excluded[i] = 1;
  return excluded;
}

/**
 * Works out what a treatment lays down on a part of the picture. The same pixels come out whatever part is asked for.
 *
 * @param within the part that is wanted
 */
export function applyTreatment(mend: Treatment, { pixels, fences }: Canvas, within: Rect): Patch {
  const { shape } = pixels;
  const footprint = treatmentFootprint(mend, shape);
  const wanted = intersectRects(footprint, within);
  if (isEmpty(wanted)) return EMPTY_PATCH;
  // Along a fence a pixel is mixed anew from what lies a little way off.
  const rect = fences.length > 0 ? intersectRects(growRect(wanted, REMIX_REACH), footprint) : wanted;
  const allowance = allowanceOn(fences, mend.zone, rect, shape);
  const coverage = coverageOn(mend, rect);
  const isIdle = coverage.every((amount, i) => amount === 0 || allowance?.[i] === 0);
  if (isIdle) return EMPTY_PATCH;
  const reads = treatmentReads(mend, wanted, shape);
  const kept = allowanceOn(fences, mend.zone, reads, shape);
  const excluded = kept && exclusionMask(kept);
  const raster = cloneRaster(pixels.window(reads).raster);
  if (excluded?.includes(1)) fillExcluded(raster, excluded);
  const values = describeTreatment(mend).values(
    mend,
    { rect: reads, raster, excluded, picture: shape },
    rect,
  );
  const patch = { rect, values, coverage };
  const under = pixels.window(rect).raster;
  const only = mend.only ? keepOnly(mend.only, patch, under) : patch;
  const bounded = allowance ? boundPatch(only, under, allowance) : only;
  const shared =
    mend.share === 1
      ? bounded
      : { ...bounded, coverage: bounded.coverage.map((amount) => amount * mend.share) };
  return rect === wanted ? shared : cropPatch(shared, wanted);
}

/** How much of each pixel of a rectangle a treatment covers, 0 to 1, row after row; fences and share are not in it. */
export function coverageOn(mend: Treatment, rect: Rect): Float32Array {
  const field = fieldOn(mend, rect);
  if (!mend.paint) return field.coverage;
  const painted = paintCoverage(mend.paint, rect, describeTreatment(mend).strokeFade?.(mend) ?? 0);
  return field.coverage.map((amount, i) => amount * painted[i]);
}
