import type { Canvas } from '../mend/canvas.ts';
import { applyTreatment, treatmentFootprint, treatmentReads } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import { layPatch } from '../mend/patch.ts';
import type { PictureShape } from '../raster/raster.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty, rectsMeet, uniteRects } from '../raster/rect.ts';
import type { LaidPixels } from './laidPatch.ts';
import { piecesOn } from './pieces.ts';

/** A treatment as it lies on the picture: worked out piece by piece, when a piece is looked at. */
export interface LaidTreatment {
  readonly mend: Treatment;
  /** What it may change. */
  readonly rect: Rect;
  /** The pieces that meet a rectangle, worked out where they were not. */
  piecesOn(rect: Rect): LaidPixels[];
  /** What must be at hand under the treatment before a rectangle is asked for; empty where all is worked out. */
  needs(rect: Rect): Rect;
  /** The same treatment over another ground, with the pieces that look at none of the places that changed. */
  over(canvas: Canvas, changed: readonly Rect[]): LaidTreatment;
}

/** Pieces that are kept, so that memory stays bounded: those of a screen, and what was looked at before. */
const MOST_PIECES = 160;
const NOWHERE: Rect = { left: 0, top: 0, width: 0, height: 0 };

interface Piece {
  readonly place: Rect;
  readonly laid: LaidPixels | null;
}

/** @param kept pieces that are worked out already */
export function layTreatment(
  mend: Treatment,
  canvas: Canvas,
  picture: PictureShape,
  kept: readonly Piece[] = [],
): LaidTreatment {
  const rect = treatmentFootprint(mend, picture);
  const keyOf = ({ left, top }: Rect): string => `${left}/${top}`;
  const pieces = new Map(kept.map((piece) => [keyOf(piece.place), piece]));

  function work(place: Rect): LaidPixels | null {
    const patch = applyTreatment(mend, canvas, place);
    if (isEmpty(patch.rect)) return null;
    const under = canvas.pixels.window(patch.rect);
    const after = cloneRaster(under.raster);
    layPatch(patch, { ...under, raster: after });
    return { rect: patch.rect, after };
  }

  function laidAt(place: Rect): LaidPixels | null {
    const key = keyOf(place);
    const piece = pieces.get(key) ?? { place, laid: work(place) };
    // The piece that was looked at last stands last.
    pieces.delete(key);
    pieces.set(key, piece);
    if (pieces.size > MOST_PIECES) pieces.delete(pieces.keys().next().value ?? key);
    return piece.laid;
  }

  const readsOf = (place: Rect): Rect => treatmentReads(mend, intersectRects(place, rect), picture);

  return {
    mend,
    rect,
    piecesOn: (asked) =>
      piecesOn(intersectRects(asked, rect)).flatMap((place) => {
        const laid = laidAt(place);
        return laid && rectsMeet(laid.rect, asked) ? [laid] : [];
      }),
    needs: (asked) =>
      piecesOn(intersectRects(asked, rect))
        .filter((place) => !pieces.has(keyOf(place)))
        .map(readsOf)
        .reduce(uniteRects, NOWHERE),
    over: (next, changed) => {
      const still = [...pieces.values()].filter(
        ({ place }) => !changed.some((one) => rectsMeet(one, readsOf(place))),
      );
      return layTreatment(mend, next, picture, still);
    },
  };
}
