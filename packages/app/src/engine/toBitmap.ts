import type { Raster } from '@fennip/core';

/** Samples as the screen takes them: red, green, blue, opacity, 8 bit each. */
export function toScreen(raster: Raster): ImageData {
  const { width, height, stride, planes, depth } = raster;
  const image = new ImageData(width, height);
  const { data } = image;
  const colour = planes.length >= 3 ? [planes[0], planes[1], planes[2]] : [planes[0], planes[0], planes[0]];
  const alpha = planes.length % 2 === 0 ? planes[planes.length - 1] : null;
  // The high byte of a 16-bit sample is its 8-bit value to within half a step.
  const shift = depth === 16 ? 8 : 0;
  for (let y = 0; y < height; y++) {
    let onto = y * width * 4;
    for (let i = y * stride; i < y * stride + width; i++, onto += 4) {
      data[onto] = colour[0][i] >> shift;
      data[onto + 1] = colour[1][i] >> shift;
      data[onto + 2] = colour[2][i] >> shift;
      data[onto + 3] = alpha ? alpha[i] >> shift : 255;
    }
  }
  return image;
}

/** A picture the page can draw at once. */
export const toBitmap = (raster: Raster): Promise<ImageBitmap> =>
  createImageBitmap(toScreen(raster), { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
