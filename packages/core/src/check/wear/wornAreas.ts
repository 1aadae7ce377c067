import { columnOf } from '../../measure/columnOf.ts';
import type { Mend } from '../../mend/mend.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { maskOf } from '../../target/maskTargets.ts';
import type { MaskTarget } from '../../target/target.ts';
import { targetField } from '../../target/targetField.ts';
import type { Wear } from './findWear.ts';
import { COVERED } from './findWear.ts';

/** An area whose texture shows again elsewhere, at least so many times. */
export interface WornArea {
  readonly area: MaskTarget;
  readonly times: number;
}

/** How often each pixel that a mend covers shows again elsewhere, row after row of its rectangle. */
function timesOn(mend: Mend, { places }: Wear, picture: PictureShape): { rect: Rect; times: Uint16Array } {
  const { rect, coverage } = targetField(mend, picture, 0);
  const times = new Uint16Array(coverage.length);
  for (const { left, top, width, height } of places) {
    const from = Math.max(0, left - rect.left);
    const to = Math.min(rect.width, left + width - rect.left);
    const end = Math.min(rect.height, top + height - rect.top);
    for (let y = Math.max(0, top - rect.top); y < end; y++)
      for (let i = y * rect.width + from; i < y * rect.width + to; i++)
        if (coverage[i] >= COVERED) times[i]++;
  }
  return { rect, times };
}

/**
 * Where a mended picture shows a texture again: for every mend one area for each number of times, each within the one before.
 *
 * @returns spans of pixels of the upright original, each with how many times its texture is shown
 */
export const wornAreas = (wear: readonly Wear[], mends: readonly Mend[], picture: PictureShape): WornArea[] =>
  wear.flatMap((one) => {
    const mend = mends.find(({ id }) => id === one.id);
    if (!mend) return [];
    const { rect, times } = timesOn(mend, one, picture);
    const areaOf = (least: number): MaskTarget =>
      maskOf(
        columnOf(Uint8Array, times, (n) => (n >= least ? 1 : 0)),
        rect,
      );
    const most = times.reduce((a, b) => Math.max(a, b), 0);
    return Array.from({ length: most }, (_, k): WornArea => ({ area: areaOf(k + 1), times: k + 1 }));
  });
