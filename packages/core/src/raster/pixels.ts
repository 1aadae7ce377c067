import type { PictureShape, Raster } from './raster.ts';
import type { Rect } from './rect.ts';
import type { Window } from './window.ts';
import { narrowWindow, wholeWindow } from './window.ts';

/** A picture's pixels, a rectangle at a time. What is asked for is clipped to the picture. */
export interface Pixels {
  readonly shape: PictureShape;
  /** @throws RasterError when that part is not at hand, or when all of it lies outside the picture */
  window(rect: Rect): Window;
}

/**
 * The pixels of a raster that holds the whole picture.
 *
 * @param raster encoded values, 8 or 16 bit
 * @param transfer what its values mean in light; sRGB where it is missing
 */
export function pixelsOf(raster: Raster, transfer?: PictureShape['transfer']): Pixels {
  const whole = wholeWindow(raster, transfer);
  return { shape: whole.picture, window: (rect) => narrowWindow(whole, rect) };
}
