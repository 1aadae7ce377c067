import { RasterError } from '../errors.ts';
import { colourPlanes } from '../raster/patch.ts';
import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane, lumaPlane } from '../raster/float.ts';
import type { Raster } from '../raster/raster.ts';
import { fullScale } from '../raster/raster.ts';
import { meanSquaredError, psnrOf } from './psnr.ts';
import { meanOver, ssimMap } from './ssim.ts';
import { textureStrength } from './texture.ts';

export interface Comparison {
  /** Decibels over all colour channels, encoded values; null where the pictures are equal. */
  readonly psnr: number | null;
  /** Mean structural similarity of the luma. */
  readonly ssim: number;
  /** Texture of the first over texture of the second, luma; null where the second has none. */
  readonly texture: number | null;
  /** How many pixels were compared. */
  readonly pixels: number;
}

function planeAsFloat(raster: Raster, channel: number): FloatPlane {
  const out = createFloatPlane(raster.width, raster.height);
  const scale = 1 / fullScale(raster.depth);
  const plane = raster.planes[channel];
  for (let y = 0; y < raster.height; y++)
    for (let x = 0; x < raster.width; x++)
      out.data[y * raster.width + x] = plane[y * raster.stride + x] * scale;
  return out;
}

/**
 * Compares a picture with the one it should be, in encoded values, over the pixels where `inside` is above 0
 * (everywhere without it). Depths may differ; sides and number of channels may not.
 *
 * @param inside a value for each pixel, row after row
 * @throws RasterError when they do
 */
export function comparePictures(mended: Raster, clean: Raster, inside?: Uint8Array): Comparison {
  if (mended.width !== clean.width || mended.height !== clean.height)
    throw new RasterError(`${mended.width} x ${mended.height} against ${clean.width} x ${clean.height}`);
  const channels = colourPlanes(mended).length;
  if (channels !== colourPlanes(clean).length) throw new RasterError('grey against colour');
  let squares = 0;
  for (let c = 0; c < channels; c++)
    squares += meanSquaredError(planeAsFloat(mended, c), planeAsFloat(clean, c), inside) / channels;
  const [lumaA, lumaB] = [lumaPlane(mended), lumaPlane(clean)];
  const cleanTexture = textureStrength(lumaB, inside);
  return {
    psnr: squares > 0 ? psnrOf(squares) : null,
    ssim: meanOver(ssimMap(lumaA, lumaB), inside),
    texture: cleanTexture > 0 ? textureStrength(lumaA, inside) / cleanTexture : null,
    pixels: inside ? inside.reduce((sum, value) => sum + (value ? 1 : 0), 0) : clean.width * clean.height,
  };
}
