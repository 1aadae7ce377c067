import type { Raster } from '@fennip/core/raster';
import { createRaster, fullScale } from '@fennip/core/raster';
import { DIFFERENCE_GAIN } from './differenceGain.ts';

/** The difference between two rasters of one size, strengthened and laid around middle grey, in encoded values. */
export function difference(before: Raster, after: Raster): Raster {
  const out = createRaster(before.width, before.height, before.planes.length >= 3 ? 3 : 1, before.depth);
  const top = fullScale(before.depth);
  out.planes.forEach((plane, c) => {
    for (let y = 0; y < before.height; y++)
      for (let x = 0; x < before.width; x++) {
        const change = after.planes[c][y * after.stride + x] - before.planes[c][y * before.stride + x];
        plane[y * out.stride + x] = Math.max(
          0,
          Math.min(top, Math.round(top / 2 + DIFFERENCE_GAIN * change)),
        );
      }
  });
  return out;
}
