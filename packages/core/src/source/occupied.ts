import type { Rect } from '../raster/rect.ts';
import { rectsMeet } from '../raster/rect.ts';

/** A round place on the picture, in pixels. */
export interface Place {
  readonly x: number;
  readonly y: number;
  readonly r: number;
  /** The fault that hides what lies there; missing where it may only shade or tint it. */
  readonly of?: string;
}

/** The rectangle around a place. */
export const placeRect = ({ x, y, r }: Place): Rect => ({
  left: Math.floor(x - r),
  top: Math.floor(y - r),
  width: Math.ceil(2 * r) + 1,
  height: Math.ceil(2 * r) + 1,
});

/** What no source may touch: round places, and single pixels of the whole picture. */
export interface Forbidden {
  readonly avoid: readonly Place[];
  readonly forbidden?: Uint8Array;
}

/** Marks the pixels of a rectangle that no source may touch, row after row. */
export function occupiedPixels(
  rect: Rect,
  { avoid, forbidden }: Forbidden,
  pictureWidth: number,
): Uint8Array {
  const marks = new Uint8Array(rect.width * rect.height);
  for (const place of avoid) if (rectsMeet(placeRect(place), rect)) markPlace(marks, rect, place);
  if (!forbidden) return marks;
  for (let row = 0; row < rect.height; row++) {
    const from = (rect.top + row) * pictureWidth + rect.left;
    for (let column = 0; column < rect.width; column++)
      if (forbidden[from + column]) marks[row * rect.width + column] = 1;
  }
  return marks;
}

function markPlace(marks: Uint8Array, rect: Rect, { x, y, r }: Place): void {
  const firstY = Math.max(0, Math.floor(y - r) - rect.top);
  const endY = Math.min(rect.height, Math.ceil(y + r) - rect.top);
  for (let row = firstY; row < endY; row++) {
    const dy = rect.top + row + 0.5 - y;
    const half2 = r * r - dy * dy;
    if (half2 < 0) continue;
    const half = Math.sqrt(half2);
    const from = Math.max(0, Math.floor(x - half) - rect.left);
    const to = Math.min(rect.width, Math.ceil(x + half) - rect.left);
    if (to > from) marks.fill(1, row * rect.width + from, row * rect.width + to);
  }
}
