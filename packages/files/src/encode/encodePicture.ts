import { said } from '@fennip/words';
import { describeFormat } from '@fennip/core/picture';
import type { Raster } from '@fennip/core/raster';
import type { Sharp } from 'sharp';
import sharp from 'sharp';
import type { CarriedData } from '../embed/carriedData.ts';
import { PictureError } from '../errors/pictureError.ts';
import type { WriteOptions } from '../write/writer.ts';
import type { FlatFormat } from '../write/writers.ts';
import { WRITERS } from '../write/writers.ts';
import { toDepth } from './toDepth.ts';

/** How a picture is written. */
export interface EncodeSettings extends WriteOptions {
  readonly format: FlatFormat;
  /** Bits of a sample; a format that holds 8 writes 8. */
  readonly depth: 8 | 16;
}

export const ENCODE_DEFAULTS = { quality: 92 } as const;

/** The usual case in one pass over the pixels: memory is what it waits for. */
function joinThree(
  { width, height, stride, planes: [red, green, blue] }: Raster,
  pixels: Uint8Array | Uint16Array,
): void {
  for (let y = 0, onto = 0; y < height; y++) {
    const end = y * stride + width;
    for (let i = y * stride; i < end; i++, onto += 3) {
      pixels[onto] = red[i];
      pixels[onto + 1] = green[i];
      pixels[onto + 2] = blue[i];
    }
  }
}

/** Plane after plane to pixel after pixel. */
function toInterleaved(raster: Raster): Uint8Array | Uint16Array {
  const { width, height, planes, depth, stride } = raster;
  const channels = planes.length;
  const size = width * height * channels;
  const pixels = depth === 16 ? new Uint16Array(size) : new Uint8Array(size);
  if (channels === 3) {
    joinThree(raster, pixels);
    return pixels;
  }
  planes.forEach((plane, channel) => {
    for (let y = 0; y < height; y++) {
      const row = y * stride;
      for (let x = 0, onto = y * width * channels + channel; x < width; x++, onto += channels)
        pixels[onto] = plane[row + x];
    }
  });
  return pixels;
}

function refuseWhatDoesNotFit(raster: Raster, { format }: EncodeSettings): void {
  const { label, longestSide, mostBytes } = describeFormat(format);
  if (Math.max(raster.width, raster.height) > longestSide)
    throw new PictureError('cannot hold', said('file.longestSide', { format: label, n: longestSide }));
  const bytes = (raster.width * raster.height * raster.planes.length * raster.depth) / 8;
  if (bytes > mostBytes) throw new PictureError('cannot hold', said('file.tooLargeFor', { format: label }));
}

function pixelsOf(raster: Raster): Sharp {
  const channels = raster.planes.length as 1 | 2 | 3 | 4;
  const { width, height, depth } = raster;
  const pipeline = sharp(toInterleaved(raster), {
    raw: { width, height, channels },
    limitInputPixels: false,
  });
  const grey = channels <= 2;
  return pipeline.toColourspace(depth === 16 ? (grey ? 'grey16' : 'rgb16') : grey ? 'b-w' : 'srgb');
}

/**
 * Encodes a raster and gives it the profile, Exif, XMP, IPTC and resolution it carries, as far as the format has a place. Values are written as they are: a
 * profile describes them and does not convert them.
 * @throws PictureError when the format cannot hold the picture
 */
export async function encodePicture(
  raster: Raster,
  carried: CarriedData,
  settings: EncodeSettings,
): Promise<Buffer> {
  refuseWhatDoesNotFit(raster, settings);
  const { format, depth } = settings;
  const holds16 = describeFormat(format).depths.includes(16);
  const atDepth = toDepth(raster, holds16 ? depth : 8);
  const writer = WRITERS[format];
  const bytes = await writer.compress(pixelsOf(atDepth), atDepth.width * atDepth.height, settings).toBuffer();
  return writer.embed(bytes, carried, atDepth);
}
