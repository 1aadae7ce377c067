import type { Raster } from './raster.ts';
import { createRaster } from './raster.ts';

/** The side of a tile in pixels. */
export const TILE_SIZE = 512;

export interface LevelSize {
  readonly width: number;
  readonly height: number;
}

/**
 * The sides of every level, full size first, each half of the one before (rounded up), until one tile holds it all.
 *
 * @param width in pixels, as `height` is
 */
export function pyramidLevels(width: number, height: number): LevelSize[] {
  const levels = [{ width, height }];
  let level = levels[0];
  while (level.width > TILE_SIZE || level.height > TILE_SIZE) {
    level = { width: Math.ceil(level.width / 2), height: Math.ceil(level.height / 2) };
    levels.push(level);
  }
  return levels;
}

/**
 * Halves a raster by area: each sample is the rounded mean of the two by two samples it covers (of those that
 * exist, at an odd right or lower border). In encoded values, as a viewer shrinks a picture.
 *
 * @returns half its sides, rounded up, of the same depth and channels
 */
export function halveRaster(raster: Raster): Raster {
  const width = Math.ceil(raster.width / 2);
  const height = Math.ceil(raster.height / 2);
  const half = createRaster(width, height, raster.planes.length, raster.depth);
  raster.planes.forEach((plane, channel) => {
    const sink = half.planes[channel];
    for (let y = 0; y < height; y++) {
      const upper = 2 * y * raster.stride;
      const lower = Math.min(2 * y + 1, raster.height - 1) * raster.stride;
      const pairs = raster.width >> 1;
      for (let x = 0; x < pairs; x++) {
        const sum =
          plane[upper + 2 * x] + plane[upper + 2 * x + 1] + plane[lower + 2 * x] + plane[lower + 2 * x + 1];
        sink[y * width + x] = (sum + 2) >> 2;
      }
      if (pairs < width)
        sink[y * width + pairs] = (plane[upper + 2 * pairs] + plane[lower + 2 * pairs] + 1) >> 1;
    }
  });
  return half;
}
