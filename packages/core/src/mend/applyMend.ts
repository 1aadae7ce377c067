import { allowanceOn } from '../fence/allowance.ts';
import { boundPatch } from '../fence/remix.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import { footprintRect } from '../target/targetField.ts';
import { bridge, bridgeFootprint, bridgeReads } from './bridge/bridge.ts';
import type { Canvas } from './canvas.ts';
import { clone, cloneReads } from './clone/clone.ts';
import { heal, healReads } from './heal/heal.ts';
import type { Mend, PaintStroke, SpotMend } from './mend.ts';
import { isTreatment } from './mend.ts';
import { paintCoverage } from './paintCoverage.ts';
import { applyTreatment, treatmentFootprint, treatmentReads } from './treat/applyTreatment.ts';
import { keepOnly } from './only.ts';
import type { Patch } from '../raster/patch.ts';
import { rebuild, rebuildReads } from './rebuild/rebuild.ts';
import { recover, recoverReads } from './recover/recover.ts';

/** The rectangle a mend may change; empty when its target lies outside the picture. */
export function mendFootprint(mend: Mend, picture: PictureShape): Rect {
  if (isTreatment(mend)) return treatmentFootprint(mend, picture);
  return mend.method === 'bridge' ? bridgeFootprint(mend, picture) : footprintRect(mend, picture);
}

/** The rectangles a mend looks at. What lies outside them has no say in its result. */
export function mendReads(mend: Mend, picture: PictureShape): Rect[] {
  if (isTreatment(mend)) return [treatmentReads(mend, treatmentFootprint(mend, picture), picture)];
  switch (mend.method) {
    case 'recover':
      return recoverReads(mend, picture);
    case 'heal':
      return healReads(mend, picture);
    case 'clone':
      return cloneReads(mend, picture);
    case 'bridge':
      return bridgeReads(mend, picture);
    case 'rebuild':
      return rebuildReads(mend, picture);
  }
}

function invent(mend: SpotMend, canvas: Canvas): Patch {
  switch (mend.method) {
    case 'recover':
      return recover(mend, canvas);
    case 'heal':
      return heal(mend, canvas);
    case 'clone':
      return clone(mend, canvas);
    case 'bridge':
      return bridge(mend, canvas);
    case 'rebuild':
      return rebuild(mend, canvas);
  }
}

/** Only what is painted in of a patch. */
function painted(patch: Patch, paint: readonly PaintStroke[]): Patch {
  const share = paintCoverage(paint, patch.rect);
  return { ...patch, coverage: patch.coverage.map((amount, i) => amount * share[i]) };
}

/**
 * What a mend lays down of what its method made: what is painted in, only where it is lighter or darker if the mend says
 * so, by its share, bounded by the fences.
 */
export function finishPatch(mend: SpotMend, invented: Patch, canvas: Canvas): Patch {
  if (isEmpty(invented.rect)) return invented;
  const patch = mend.paint ? painted(invented, mend.paint) : invented;
  const under = canvas.pixels.window(patch.rect).raster;
  const kept = mend.only ? keepOnly(mend.only, patch, under) : patch;
  const allowance = allowanceOn(canvas.fences, mend.zone, patch.rect, canvas.pixels.shape);
  const bounded = allowance ? boundPatch(kept, under, allowance) : kept;
  // A clone that builds up has its share in each dab already.
  if (mend.share === 1 || (mend.method === 'clone' && mend.buildUp)) return bounded;
  return { ...bounded, coverage: bounded.coverage.map((amount) => amount * mend.share) };
}

/** Works out what a mend lays down on the picture as mended so far. Pure: the same pixels give the same patch. */
export function applyMend(mend: Mend, canvas: Canvas): Patch {
  if (isTreatment(mend)) return applyTreatment(mend, canvas, pictureRect(canvas.pixels.shape));
  return finishPatch(mend, invent(mend, canvas), canvas);
}
