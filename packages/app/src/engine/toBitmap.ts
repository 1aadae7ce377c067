import type { Raster } from '@fennip/core';

const OPAQUE = 255;

/** Samples as the screen takes them: red, green, blue, opacity, 8 bit each. */
export function toScreen(raster: Raster): ImageData {
  const { width, height, stride, planes, depth } = raster;
  const image = new ImageData(width, height);
  // A pixel is written as one number; all machines with a browser put its low byte, red, first.
  const pixels = new Uint32Array(image.data.buffer);
  const [red, green, blue] =
    planes.length >= 3 ? [planes[0], planes[1], planes[2]] : [planes[0], planes[0], planes[0]];
  const alpha = planes.length % 2 === 0 ? planes[planes.length - 1] : null;
  // The high byte of a 16-bit sample is its 8-bit value to within half a step.
  const shift = depth === 16 ? 8 : 0;
  for (let y = 0; y < height; y++) {
    const onto = y * width;
    const from = y * stride;
    for (let x = 0; x < width; x++) {
      const i = from + x;
      const opacity = alpha ? alpha[i] >> shift : OPAQUE;
      pixels[onto + x] =
        (red[i] >> shift) | ((green[i] >> shift) << 8) | ((blue[i] >> shift) << 16) | (opacity << 24);
    }
  }
  return image;
}

/** A picture the page can draw at once. */
export const toBitmap = (raster: Raster): Promise<ImageBitmap> =>
  createImageBitmap(toScreen(raster), { colorSpaceConversion: 'none', premultiplyAlpha: 'none' });
