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

const SIDE = 2048;
/** Reaches beyond the ring of the largest speck, so that tiles agree about what lies on their border. */
const OVERLAP = 192;

/** Cuts a picture into tiles that can be examined in any order and on any thread with the same result. */
export function examineTiles(picture: PictureShape): ExamineTile[] {
  const whole = pictureRect(picture);
  const tiles: ExamineTile[] = [];
  for (let top = 0; top < picture.height; top += SIDE) {
    for (let left = 0; left < picture.width; left += SIDE) {
      const keep = intersectRects({ left, top, width: SIDE, height: SIDE }, whole);
      tiles.push({ keep, read: intersectRects(growRect(keep, OVERLAP), whole) });
    }
  }
  return tiles;
}
