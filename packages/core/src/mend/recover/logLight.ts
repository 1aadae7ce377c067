import { SRGB_TRANSFER, sharedTransferTable } from '../../light/transfer.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { fullScale } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { colourPlanes } from '../../raster/patch.ts';

/** Light below this is mostly noise. */
const DARK = 0.004;

/**
 * The natural logarithm of linear light on a rectangle of the picture, where what dims adds the same to light and dark.
 *
 * @returns one array for each colour channel, row after row
 */
export function logLight(pixels: Pixels, rect: Rect): Float32Array[] {
  const { raster } = pixels.window(rect);
  const { width, height, stride, depth } = raster;
  return colourPlanes(raster).map((plane, c) => {
    const { light } = sharedTransferTable(pixels.shape.transfer?.[c] ?? SRGB_TRANSFER, fullScale(depth));
    const log = new Float32Array(width * height);
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) log[y * width + x] = Math.log(light[plane[y * stride + x]] + DARK);
    return log;
  });
}
