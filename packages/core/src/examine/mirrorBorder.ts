import { copyRaster, createRaster } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';

/** The place that a place beyond an end is the mirror image of. */
function mirrored(at: number, length: number): number {
  const turn = 2 * length;
  const within = ((at % turn) + turn) % turn;
  return within < length ? within : turn - 1 - within;
}

/**
 * Carries a window on beyond the borders of its picture by mirror images, so that what lies at a border can be looked
 * at all around. Where the picture itself goes on nothing is added.
 *
 * @param by how far, in pixels
 */
export function mirrorBorder(window: Window, by: number): Window {
  const { left, top, raster, picture } = window;
  const { width, height } = raster;
  const before = { x: left === 0 ? by : 0, y: top === 0 ? by : 0 };
  const after = {
    x: left + width === picture.width ? by : 0,
    y: top + height === picture.height ? by : 0,
  };
  if (before.x + before.y + after.x + after.y === 0) return window;
  const wide = createRaster(
    width + before.x + after.x,
    height + before.y + after.y,
    raster.planes.length,
    raster.depth,
  );
  copyRaster(raster, wide, before.x, before.y);
  const aside = Int32Array.from({ length: before.x + after.x }, (_, k) => (k < before.x ? k : width + k));
  const images = aside.map((x) => mirrored(x - before.x, width));
  wide.planes.forEach((plane, c) => {
    const source = raster.planes[c];
    for (let y = 0; y < wide.height; y++) {
      const from = mirrored(y - before.y, height) * raster.stride;
      const onto = y * wide.stride;
      const isNew = y < before.y || y >= before.y + height;
      if (isNew) plane.set(source.subarray(from, from + width), onto + before.x);
      for (let k = 0; k < aside.length; k++) plane[onto + aside[k]] = source[from + images[k]];
    }
  });
  return { ...window, left: left - before.x, top: top - before.y, raster: wide };
}
