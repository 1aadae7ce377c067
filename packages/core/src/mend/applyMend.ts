import { allowanceOn } from '../fence/allowance.ts';
import { boundPatch } from '../fence/remix.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty } from '../raster/rect.ts';
import { footprintRect } from '../target/targetField.ts';
import { bridge, bridgeReads } from './bridge/bridge.ts';
import type { Canvas } from './canvas.ts';
import { clone, cloneReads } from './clone/clone.ts';
import { heal, healReads } from './heal/heal.ts';
import type { Mend } from './mend.ts';
import { keepOnly } from './only.ts';
import type { Patch } from './patch.ts';
import { recover, recoverReads } from './recover/recover.ts';

/** The rectangle a mend may change; empty when its target lies outside the picture. */
export const mendFootprint = (mend: Mend, picture: PictureShape): Rect => footprintRect(mend, picture);

/** The rectangles a mend looks at. What lies outside them has no say in its result. */
export function mendReads(mend: Mend, picture: PictureShape): Rect[] {
  switch (mend.method) {
    case 'recover':
      return recoverReads(mend, picture);
    case 'heal':
      return healReads(mend, picture);
    case 'clone':
      return cloneReads(mend, picture);
    case 'bridge':
      return bridgeReads(mend, picture);
  }
}

function invent(mend: Mend, canvas: Canvas): Patch {
  switch (mend.method) {
    case 'recover':
      return recover(mend, canvas);
    case 'heal':
      return heal(mend, canvas);
    case 'clone':
      return clone(mend, canvas);
    case 'bridge':
      return bridge(mend, canvas);
  }
}

/**
 * Works out what a mend lays down on the picture as mended so far: its method's values, taken only where they are
 * lighter or darker if the mend says so, by its share, bounded by the fences. Pure: the same pixels give the same
 * patch.
 */
export function applyMend(mend: Mend, canvas: Canvas): Patch {
  const patch = invent(mend, canvas);
  if (isEmpty(patch.rect)) return patch;
  const under = canvas.pixels.window(patch.rect).raster;
  const kept = mend.only ? keepOnly(mend.only, patch, under) : patch;
  const allowance = allowanceOn(canvas.fences, mend.zone, patch.rect, canvas.pixels.shape);
  const bounded = allowance ? boundPatch(kept, under, allowance) : kept;
  // A clone that builds up has its share in each dab already.
  if (mend.share === 1 || (mend.method === 'clone' && mend.buildUp)) return bounded;
  return { ...bounded, coverage: bounded.coverage.map((amount) => amount * mend.share) };
}
