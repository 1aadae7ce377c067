import { mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { Mend } from '../mend/mend.ts';
import { isTreatment } from '../mend/mend.ts';
import { treatmentReads } from '../mend/treat/applyTreatment.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty, uniteRects } from '../raster/rect.ts';
import { piecesOn } from './pieces.ts';

/** What must be as it will be for a mend to look as it will on some rectangles: of a treatment only the pieces there. */
function lookedAt(mend: Mend, shown: readonly Rect[], picture: PictureShape): Rect[] {
  if (!isTreatment(mend)) return mendReads(mend, picture);
  const pieces = piecesOn(shown.reduce(uniteRects));
  return [treatmentReads(mend, pieces.reduce(uniteRects), picture)];
}

/** The mends that a rectangle shows, and those they look at, by id. */
function seenOn(mends: readonly Mend[], sight: Rect, picture: PictureShape): Set<string> {
  const looked = [sight];
  const seen = new Set<string>();
  for (const mend of mends.toReversed()) {
    const footprint = mendFootprint(mend, picture);
    const shown = looked.map((rect) => intersectRects(rect, footprint)).filter((rect) => !isEmpty(rect));
    if (shown.length === 0) continue;
    seen.add(mend.id);
    looked.push(...lookedAt(mend, shown, picture));
  }
  return seen;
}

/**
 * The mends to lay down next of a long list that is laid down part by part: first those that are in sight with all they look
 * at, then the others. Whatever order of parts comes of it, the picture with all of them is the same.
 *
 * @param laid those that lie there already, by id
 * @param sight the part of the picture that is looked at; none where that is not known
 * @param most how many more are to be laid
 * @returns what then lies there, in the order of the list
 */
export function nextPart(
  mends: readonly Mend[],
  laid: ReadonlySet<string>,
  sight: Rect | null,
  picture: PictureShape,
  most: number,
): Mend[] {
  const left = mends.filter(({ id }) => !laid.has(id));
  const seen = sight ? seenOn(mends, sight, picture) : new Set<string>();
  const first = left.filter(({ id }) => seen.has(id));
  const next = new Set([...first, ...left.filter(({ id }) => !seen.has(id))].slice(0, most));
  return mends.filter((mend) => laid.has(mend.id) || next.has(mend));
}
