import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';

/** A part of a picture that is examined by itself. */
export interface ExamineTile {
  /** What is found with its centre in here belongs to this tile. */
  readonly keep: Rect;
  /** What must be looked at for that. */
  readonly read: Rect;
}

/** Tiles are about as large as this: small enough to tell how far the work is, large enough to overlap little. */
const SIDE = 1700;
/** Reaches beyond the ring of the largest speck, so that tiles agree about what lies on their border. */
export const OVERLAP = 192;

/** Tiles begin at multiples of this, so that every halving of a tile lies on the halvings of the whole. */
const GRID = 64;

/** Cuts a side into parts of about the same length. */
function cuts(length: number): number[] {
  const parts = Math.max(1, Math.round(length / SIDE));
  const step = GRID * Math.ceil(length / parts / GRID);
  return Array.from({ length: Math.ceil(length / step) + 1 }, (_, k) => Math.min(length, k * step));
}

/** Cuts a picture into tiles that can be examined in any order and on any thread with the same result. */
export function examineTiles(picture: PictureShape): ExamineTile[] {
  const whole = pictureRect(picture);
  const [across, down] = [cuts(picture.width), cuts(picture.height)];
  return down.slice(1).flatMap((bottom, row) =>
    across.slice(1).map((right, column): ExamineTile => {
      const [left, top] = [across[column], down[row]];
      const keep = { left, top, width: right - left, height: bottom - top };
      return { keep, read: intersectRects(growRect(keep, OVERLAP), whole) };
    }),
  );
}
