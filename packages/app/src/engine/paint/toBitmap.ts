import type { Raster } from '@fennip/core/raster';

const OPAQUE = 255;

const hasAlpha = ({ planes }: Raster): boolean => planes.length % 2 === 0;

/** Samples as the screen takes them: red, green, blue, opacity, 8 bit each. */
export function toScreen(raster: Raster): ImageData {
  const { width, height, stride, planes, depth } = raster;
  const image = new ImageData(width, height);
  // A pixel is written as one number; all machines with a browser put its low byte, red, first.
  const pixels = new Uint32Array(image.data.buffer);
  const [red, green, blue] =
    planes.length >= 3 ? [planes[0], planes[1], planes[2]] : [planes[0], planes[0], planes[0]];
  const alpha = hasAlpha(raster) ? planes[planes.length - 1] : null;
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

/**
 * Bitmaps of one size are written on one canvas: what another holds is let go late. They are taken out of it, not copied:
 * without a graphics card a worker then waits for the page's thread for new pixels, some 30 ms while that draws, and yet
 * sixty decisions took 4 to 6 s, and 6 to 9 s with copies.
 */
let canvas: OffscreenCanvas | null = null;

function opaqueBitmap(image: ImageData): ImageBitmap | null {
  const { width, height } = image;
  if (canvas?.width !== width || canvas.height !== height) canvas = new OffscreenCanvas(width, height);
  // Kept where the processor reaches it: it is written once and given away.
  const context = canvas.getContext('2d', { alpha: false, willReadFrequently: true });
  context?.putImageData(image, 0, 0);
  return context && canvas.transferToImageBitmap();
}

/**
 * A picture the page can draw at once. What hides all behind it is known to: where no graphics
 * card helps, the page draws it in a sixth of the time.
 */
export async function toBitmap(raster: Raster): Promise<ImageBitmap> {
  const image = toScreen(raster);
  const opaque = hasAlpha(raster) ? null : opaqueBitmap(image);
  return opaque ?? createImageBitmap(image, { colorSpaceConversion: 'none' });
}
