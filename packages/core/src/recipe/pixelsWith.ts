import type { Pixels } from '../raster/pixels.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, rectsMeet, uniteRects } from '../raster/rect.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect } from '../raster/window.ts';
import type { Laid } from './laid.ts';
import { isLaidTreatment } from './laid.ts';
import { copyPatch } from './laidPatch.ts';

/** Pixels with mends on them; what no mend meets is handed through without copying. */
export function pixelsWith(base: Pixels, laidOn: (rect: Rect) => Laid[]): Pixels {
  return {
    shape: base.shape,
    window: (asked): Window => {
      const rect = intersectRects(asked, pictureRect(base.shape));
      const under = base.window(rect);
      const laid = laidOn(rect);
      if (laid.length === 0) return under;
      const raster = cloneRaster(under.raster);
      for (const one of laid) {
        if (!isLaidTreatment(one)) copyPatch(one, raster, rect.left, rect.top);
        else for (const piece of one.piecesOn(rect)) copyPatch(piece, raster, rect.left, rect.top);
      }
      return { ...under, raster };
    },
  };
}

/** The mends that meet a rectangle. */
export const meeting = (laid: readonly Laid[], rect: Rect): Laid[] =>
  laid.filter((one) => rectsMeet(one.rect, rect));

/** What must be at hand of the picture without mends before a rectangle with these on it is asked for. */
export const needsUnder = (laid: readonly Laid[], rect: Rect): Rect =>
  laid
    .filter(isLaidTreatment)
    .reduceRight((needed, treatment) => uniteRects(needed, treatment.needs(needed)), rect);
