import { TILE_SIZE } from '../raster/pyramid.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty } from '../raster/rect.ts';

/** The pieces of a picture that meet a rectangle, in rows: treatments are worked out one piece at a time. */
export function piecesOn(rect: Rect): Rect[] {
  if (isEmpty(rect)) return [];
  const pieces: Rect[] = [];
  const first = (from: number): number => Math.floor(from / TILE_SIZE) * TILE_SIZE;
  for (let top = first(rect.top); top < rect.top + rect.height; top += TILE_SIZE)
    for (let left = first(rect.left); left < rect.left + rect.width; left += TILE_SIZE)
      pieces.push({ left, top, width: TILE_SIZE, height: TILE_SIZE });
  return pieces;
}
