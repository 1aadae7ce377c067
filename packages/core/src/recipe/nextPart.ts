import type { Mend } from '../mend/mend.ts';
import { mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { rectsMeet } from '../raster/rect.ts';

/** The mends that a rectangle shows, and those they look at, by id. */
function seenOn(mends: readonly Mend[], sight: Rect, picture: PictureShape): Set<string> {
  const looked = [sight];
  const seen = new Set<string>();
  for (const mend of mends.toReversed()) {
    const footprint = mendFootprint(mend, picture);
    if (!looked.some((rect) => rectsMeet(rect, footprint))) continue;
    seen.add(mend.id);
    looked.push(...mendReads(mend, picture));
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
