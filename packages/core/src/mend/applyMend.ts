import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { footprintRect } from '../target/targetField.ts';
import { heal, healReads } from './heal/heal.ts';
import type { Mend } from './mend.ts';
import type { Patch } from './patch.ts';

/** The rectangle a mend may change; empty when its target lies outside the picture. */
export const mendFootprint = (mend: Mend, picture: PictureShape): Rect => footprintRect(mend, picture);

/** The rectangles a mend looks at. What lies outside them has no say in its result. */
export function mendReads(mend: Mend, picture: PictureShape): Rect[] {
  switch (mend.method) {
    case 'heal':
      return healReads(mend, picture);
  }
}

/** Works out what a mend lays down on the picture as mended so far. Pure: the same pixels give the same patch. */
export function applyMend(mend: Mend, pixels: Pixels): Patch {
  switch (mend.method) {
    case 'heal':
      return heal(mend, pixels);
  }
}
