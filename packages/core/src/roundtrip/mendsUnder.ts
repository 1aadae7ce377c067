import { mendFootprint } from '../mend/applyMend.ts';
import type { Mend } from '../mend/mend.ts';
import type { PictureShape } from '../raster/raster.ts';
import { intersectRects, isEmpty } from '../raster/rect.ts';
import { fieldOn } from '../target/targetField.ts';
import type { MaskTarget } from '../target/target.ts';
import { spansOfMask } from '../target/spanRows.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { eachInSpans, rowStarts } from '../mend/treat/return/returnedValues.ts';

/** The mends that lie on pixels of a mask: what is laid over them hides them there. Those that are off do not count. */
export function mendsUnder(mask: MaskTarget, mends: readonly Mend[], picture: PictureShape): Mend[] {
  const spans = spansOfMask(mask);
  const starts = rowStarts(spans);
  return mends.filter((mend) => {
    if (!mend.on) return false;
    const rect = intersectRects(mendFootprint(mend, picture), targetBounds(mask, 0));
    if (isEmpty(rect)) return false;
    const { coverage } = fieldOn(mend, rect);
    let isMet = false;
    eachInSpans({ spans, starts }, rect, (x, y) => {
      if (coverage[(y - rect.top) * rect.width + x - rect.left] > 0) isMet = true;
    });
    return isMet;
  });
}
