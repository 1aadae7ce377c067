import { gaussian } from '../random/gaussian.ts';
import { mulberry } from '../random/mulberry.ts';
import type { Depth, Raster } from '../raster/raster.ts';
import { createRaster, fullScale } from '../raster/raster.ts';

/** Pictures for tests: a tone for every place, in shares of full scale, with seeded grain. */
export function pictureOf(
  width: number,
  height: number,
  tone: (x: number, y: number, channel: number) => number,
  { channels = 3, depth = 8 as Depth, grain = 0, seed = 1 } = {},
): Raster {
  const raster = createRaster(width, height, channels, depth);
  const uniform = mulberry(seed);
  const top = fullScale(depth);
  raster.planes.forEach((plane, channel) => {
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const value = tone(x + 0.5, y + 0.5, channel) + grain * gaussian(uniform);
        plane[y * width + x] = Math.max(0, Math.min(top, Math.round(value * top)));
      }
  });
  return raster;
}

/** How deep a round speck with a soft border darkens a place, 0 to 1. */
export function speckAt(x: number, y: number, cx: number, cy: number, r: number, softness = 0.3): number {
  const t = Math.min(1, Math.max(0, (1 + softness - Math.hypot(x - cx, y - cy) / r) / (2 * softness)));
  return t * t * (3 - 2 * t);
}
