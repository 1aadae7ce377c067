import type { Canvas } from '../mend/canvas.ts';
import { treatmentFootprint, treatmentReads } from '../mend/treat/applyTreatment.ts';
import type { TreatTask } from './treatWindow.ts';
import { treatWindow } from './treatWindow.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, rectsMeet, uniteRects } from '../raster/rect.ts';
import type { LaidPixels } from './laidPatch.ts';
import { piecesOn } from './pieces.ts';

/** Has a task carried out, in another thread or here. */
export type TreatBy = (task: TreatTask) => Promise<LaidPixels | null>;

/** A treatment as it lies on the picture: worked out piece by piece, when a piece is looked at. */
export interface LaidTreatment {
  readonly mend: Treatment;
  /** What it may change. */
  readonly rect: Rect;
  /** The pieces that meet a rectangle, worked out where they were not. */
  piecesOn(rect: Rect): LaidPixels[];
  /** What must be at hand under the treatment before a rectangle is asked for; empty where all is worked out. */
  needs(rect: Rect): Rect;
  /** Has the pieces that meet a rectangle worked out elsewhere; what they need must be at hand. */
  prepare(rect: Rect, treat: TreatBy): Promise<void>;
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
  const underWay = new Map<string, Promise<void>>();
  const pieces = new Map(kept.map((piece) => [keyOf(piece.place), piece]));

  const readsOf = (place: Rect): Rect => treatmentReads(mend, intersectRects(place, rect), picture);
  const taskFor = (place: Rect): TreatTask => ({
    ...{ mend, fences: canvas.fences, within: place },
    window: canvas.pixels.window(readsOf(place)),
  });

  function keep(piece: Piece): LaidPixels | null {
    const key = keyOf(piece.place);
    // The piece that was looked at last stands last.
    pieces.delete(key);
    pieces.set(key, piece);
    if (pieces.size > MOST_PIECES) pieces.delete(pieces.keys().next().value ?? key);
    return piece.laid;
  }

  const laidAt = (place: Rect): LaidPixels | null =>
    keep(pieces.get(keyOf(place)) ?? { place, laid: treatWindow(taskFor(place)) });

  /** Has a piece worked out elsewhere, once, however often it is asked for meanwhile. */
  function workOut(place: Rect, treat: TreatBy): Promise<void> {
    const key = keyOf(place);
    const known = underWay.get(key);
    if (known) return known;
    const made = treat(taskFor(place))
      .then((laid) => void keep({ place, laid }))
      .finally(() => underWay.delete(key));
    underWay.set(key, made);
    return made;
  }

  const missing = (asked: Rect): Rect[] =>
    piecesOn(intersectRects(asked, rect)).filter((place) => !pieces.has(keyOf(place)));

  return {
    mend,
    rect,
    piecesOn: (asked) =>
      piecesOn(intersectRects(asked, rect)).flatMap((place) => {
        const laid = laidAt(place);
        return laid && rectsMeet(laid.rect, asked) ? [laid] : [];
      }),
    needs: (asked) => missing(asked).map(readsOf).reduce(uniteRects, NOWHERE),
    prepare: async (asked, treat) => {
      await Promise.all(missing(asked).map((place) => workOut(place, treat)));
    },
    over: (next, changed) => {
      const still = [...pieces.values()].filter(
        ({ place }) => !changed.some((one) => rectsMeet(one, readsOf(place))),
      );
      return layTreatment(mend, next, picture, still);
    },
  };
}
