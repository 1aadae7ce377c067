import { RasterError } from '../errors.ts';
import type { PictureShape, Raster } from './raster.ts';
import { viewRaster } from './raster.ts';
import type { Rect } from './rect.ts';
import { intersectRects, isEmpty, rectHolds } from './rect.ts';

/**
 * A part of a picture that knows where it lies: the raster's first pixel is the picture's pixel (left, top).
 * Every computation gets one, so that it runs the same on a whole picture and on the few tiles at hand.
 */
export interface Window {
  readonly left: number;
  readonly top: number;
  readonly raster: Raster;
  readonly picture: PictureShape;
}

/** The rectangle of all pixels of a picture. */
export const pictureRect = (picture: PictureShape): Rect => ({
  left: 0,
  top: 0,
  width: picture.width,
  height: picture.height,
});

export const windowRect = (window: Window): Rect => ({
  left: window.left,
  top: window.top,
  width: window.raster.width,
  height: window.raster.height,
});

/** Sees a whole raster as the window that holds all of its picture. */
export function wholeWindow(raster: Raster, transfer?: PictureShape['transfer']): Window {
  const { width, height, depth, planes } = raster;
  const picture = { width, height, depth, channels: planes.length, ...(transfer ? { transfer } : {}) };
  return { left: 0, top: 0, raster, picture };
}

/** Narrows a window to a rectangle of the picture, sharing the samples. @throws RasterError when it is not all there */
export function narrowWindow(window: Window, rect: Rect): Window {
  const wanted = intersectRects(rect, pictureRect(window.picture));
  if (isEmpty(wanted) || !rectHolds(windowRect(window), wanted))
    throw new RasterError(
      `the window does not hold ${wanted.width} x ${wanted.height} at ${wanted.left}, ${wanted.top}`,
    );
  const part = { ...wanted, left: wanted.left - window.left, top: wanted.top - window.top };
  return { ...window, left: wanted.left, top: wanted.top, raster: viewRaster(window.raster, part) };
}
