import type { Raster } from '@fennip/core/raster';
import { srgbToLinear } from '@fennip/core/light';
import { createRaster, fullScale } from '@fennip/core/raster';
import type { Sheet } from '@fennip/scenes';

/** A picture as linear light, three values a pixel; grey counts for all three. */
export function toSheet(raster: Raster): Sheet {
  const { width, height, planes } = raster;
  const light = new Float32Array(width * height * 3);
  const top = fullScale(raster.depth);
  const lightOf = Float32Array.from({ length: top + 1 }, (_, code) => srgbToLinear(code / top));
  for (let c = 0; c < 3; c++) {
    const plane = planes[Math.min(c, planes.length - 1)];
    for (let i = 0; i < width * height; i++) light[3 * i + c] = lightOf[plane[i]];
  }
  return { light, width, height };
}

/** Half way between two codes of 8 bit: from here on light is the next one's. */
const STEPS = Float64Array.from({ length: 255 }, (_, code) => srgbToLinear((code + 0.5) / 255));

/** The code of 8 bit nearest to a light: by halving, without a power for each. */
function codeOf(light: number): number {
  let [least, most] = [0, 255];
  while (least < most) {
    const middle = (least + most) >> 1;
    if (light < STEPS[middle]) most = middle;
    else least = middle + 1;
  }
  return least;
}

/** Linear light as a colour picture of 8 bit. */
export function fromSheet({ light, width, height }: Sheet): Raster {
  const raster = createRaster(width, height, 3, 8);
  for (let c = 0; c < 3; c++)
    for (let i = 0; i < width * height; i++) raster.planes[c][i] = codeOf(light[3 * i + c]);
  return raster;
}
