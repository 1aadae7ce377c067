import type { Depth, Raster } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';

/** The same picture in samples of another depth: 255 is 65535; to 8 bit the nearest value is taken. */
export function toDepth(raster: Raster, depth: Depth): Raster {
  if (raster.depth === depth) return raster;
  const { width, height, stride, planes } = raster;
  const out = createRaster(width, height, planes.length, depth);
  planes.forEach((plane, channel) => {
    const sink = out.planes[channel];
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) {
        const value = plane[y * stride + x];
        sink[y * width + x] = depth === 16 ? value * 257 : Math.round(value / 257);
      }
    }
  });
  return out;
}
