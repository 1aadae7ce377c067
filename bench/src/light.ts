import type { Raster } from '@fennip/core/raster';
import { linearToSrgb, srgbToLinear } from '@fennip/core/light';
import { createRaster, fullScale } from '@fennip/core/raster';
import type { Sheet } from '@fennip/scenes';

/** A picture as linear light, three values a pixel; grey counts for all three. */
export function toSheet(raster: Raster): Sheet {
  const { width, height, planes } = raster;
  const light = new Float32Array(width * height * 3);
  const top = fullScale(raster.depth);
  for (let c = 0; c < 3; c++) {
    const plane = planes[Math.min(c, planes.length - 1)];
    for (let i = 0; i < width * height; i++) light[3 * i + c] = srgbToLinear(plane[i] / top);
  }
  return { light, width, height };
}

/** Linear light as a colour picture of 8 bit. */
export function fromSheet({ light, width, height }: Sheet): Raster {
  const raster = createRaster(width, height, 3, 8);
  for (let c = 0; c < 3; c++)
    for (let i = 0; i < width * height; i++)
      raster.planes[c][i] = Math.max(0, Math.min(255, Math.round(255 * linearToSrgb(light[3 * i + c]))));
  return raster;
}
