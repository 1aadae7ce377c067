import type { Transfer } from '../light/transfer.ts';
import type { Fence } from '../fence/fence.ts';
import { applyFinish, finishReach } from '../finish/applyFinish.ts';
import type { FinishStep } from '../finish/finishStep.ts';
import { applyFraming } from '../finish/framing/applyFraming.ts';
import { framingOf } from '../finish/framing/framing.ts';
import { applyMend } from '../mend/applyMend.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import { layPatch } from '../raster/patch.ts';
import { applyTreatment } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Raster } from '../raster/raster.ts';
import { copyRaster, createRaster, viewRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import type { Window } from '../raster/window.ts';
import { narrowWindow, wholeWindow } from '../raster/window.ts';

/** What a recipe is carried out on. Threads that get it work on the same samples where these are shared. */
export interface RenderGround {
  /** The whole picture, changed in place. */
  readonly raster: Raster;
  /** The picture as it was before its first mend, where one reads that. */
  readonly original: Raster | null;
  readonly fences: readonly Fence[];
  /** What the encoded values mean in light, for each colour channel; sRGB where it is missing. */
  readonly transfer?: readonly Transfer[];
}

/** Rows of a picture as they are before they are finished. */
export interface KeptRows {
  readonly top: number;
  readonly raster: Raster;
}

/** A part of what a recipe does, which needs nothing but the ground and itself. */
export type RenderPart =
  | { readonly kind: 'mends'; readonly mends: readonly SpotMend[] }
  | {
      readonly kind: 'treatment';
      readonly mend: Treatment;
      readonly pieces: readonly Rect[];
      /** The picture as the treatment finds it: pieces read what others have changed already. */
      readonly before: Raster;
    }
  | {
      readonly kind: 'finish';
      readonly finish: readonly FinishStep[];
      readonly top: number;
      readonly bottom: number;
      /** What steps look at above and below, which may be finished already. */
      readonly kept: readonly KeptRows[];
    }
  | {
      readonly kind: 'frame';
      readonly finish: readonly FinishStep[];
      readonly part: Rect;
      /** The picture as it is framed. */
      readonly onto: Raster;
    };

/**
 * Carries out a part, in place.
 *
 * @param ground the picture's samples in memory that threads share
 */
export function renderPart(ground: RenderGround, part: RenderPart): void {
  const { raster, original, fences, transfer } = ground;
  const whole = wholeWindow(raster, transfer);
  const pixels = pixelsOf(raster, transfer);
  const canvas = { pixels, original: original ? pixelsOf(original, transfer) : pixels, fences };
  switch (part.kind) {
    case 'mends':
      for (const mend of part.mends) layPatch(applyMend(mend, canvas), whole);
      return;
    case 'treatment': {
      const before = { ...canvas, pixels: pixelsOf(part.before, transfer) };
      for (const piece of part.pieces) layPatch(applyTreatment(part.mend, before, piece), whole);
      return;
    }
    case 'finish':
      finishRows(whole, fences, part);
      return;
    case 'frame': {
      const framing = framingOf(raster, part.finish);
      if (framing)
        copyRaster(applyFraming(framing, whole, part.part), part.onto, part.part.left, part.part.top);
    }
  }
}

/** A whole picture in floating point would take four times its memory: it is finished a band at a time. */
const BAND = 64;

/**
 * Finishes rows of a picture in place. A band is written back when the one after it is done, so that none sees what is
 * finished already: no step looks farther than one band.
 */
function finishRows(
  whole: Window,
  fences: readonly Fence[],
  { finish, top, bottom, kept }: Extract<RenderPart, { kind: 'finish' }>,
): void {
  const { raster } = whole;
  const reach = finishReach(finish);
  const step = Math.max(BAND, reach);
  let write = (): void => undefined;
  for (let from = top; from < bottom; from += step) {
    const band = { left: 0, top: from, width: raster.width, height: Math.min(step, bottom - from) };
    const seen = seenRows(whole, from - reach, from + band.height + reach, { top, bottom, kept });
    const finished = applyFinish(seen, finish, fences);
    write();
    write = () => copyRaster(viewRaster(finished, { ...band, top: from - seen.top }), raster, 0, from);
  }
  write();
}

/** Rows of the picture, those beyond the part as they were kept. */
function seenRows(
  whole: Window,
  from: number,
  to: number,
  { top, bottom, kept }: { top: number; bottom: number; kept: readonly KeptRows[] },
): Window {
  const { raster } = whole;
  const seen = narrowWindow(whole, { left: 0, top: from, width: raster.width, height: to - from });
  if (seen.top >= top && seen.top + seen.raster.height <= bottom) return seen;
  const rows = createRaster(raster.width, seen.raster.height, raster.planes.length, raster.depth);
  copyRaster(seen.raster, rows, 0, 0);
  for (const one of kept) copyRaster(one.raster, rows, 0, one.top - seen.top);
  return { ...seen, raster: rows };
}
