import type { Raster } from '@fennip/core/raster';
import type { Sharp } from 'sharp';
import sharp from 'sharp';
import type { CarriedData } from '../carriedData.ts';
import type { PictureFormat } from '../decode/sniff.ts';
import { embed } from '../embed/embed.ts';
import { PictureError } from '../pictureError.ts';
import { toDepth } from './toDepth.ts';

/** How a picture is written. */
export interface EncodeSettings {
  readonly format: PictureFormat;
  /** JPEG and WebP: 1 to 100. */
  readonly quality: number;
  /** PNG and TIFF; the others hold 8 bit. */
  readonly depth: 8 | 16;
  /** JPEG: whether colour is kept at full resolution; by quality where it is missing. */
  readonly chroma?: '4:4:4' | '4:2:0';
  /** TIFF; deflate where it is missing. */
  readonly compression?: 'deflate' | 'lzw';
}

export const ENCODE_DEFAULTS = { quality: 92 } as const;

/** The longest side that a format can hold: JPEG's and WebP's own limits. */
const LONGEST_SIDE: Record<PictureFormat, number> = {
  jpeg: 65535,
  webp: 16383,
  png: 2 ** 31 - 1,
  tiff: 2 ** 31 - 1,
};
/** Offsets in a TIFF have 32 bits, and the directory is written last. */
const MOST_TIFF_BYTES = 3.9e9;

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
  const longest = LONGEST_SIDE[format];
  if (Math.max(raster.width, raster.height) > longest)
    throw new PictureError(
      'cannot hold',
      `A ${format.toUpperCase()} file holds at most ${longest} pixels on a side.`,
    );
  const bytes = (raster.width * raster.height * raster.planes.length * raster.depth) / 8;
  if (format === 'tiff' && bytes > MOST_TIFF_BYTES)
    throw new PictureError('cannot hold', 'The picture is too large for a TIFF file.');
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

/** From so many pixels on a JPEG is coded as it goes: to fit its codes to it, all of it would be held twice over. */
const MOST_FITTED = 16e6;

function compress(
  pipeline: Sharp,
  size: number,
  { format, quality, chroma, compression }: EncodeSettings,
): Sharp {
  switch (format) {
    case 'jpeg':
      // Full colour resolution from here on: what was mended in red shall not bleed two pixels wide.
      return pipeline.flatten({ background: '#ffffff' }).jpeg({
        quality,
        chromaSubsampling: chroma ?? (quality >= 90 ? '4:4:4' : '4:2:0'),
        optimiseCoding: size <= MOST_FITTED,
      });
    case 'png':
      return pipeline.png({ compressionLevel: 6 });
    case 'tiff':
      return pipeline.tiff({ compression: compression ?? 'deflate', predictor: 'horizontal' });
    case 'webp':
      return quality === 100 ? pipeline.webp({ lossless: true }) : pipeline.webp({ quality });
  }
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
  const holds16 = settings.format === 'png' || settings.format === 'tiff';
  const atDepth = toDepth(raster, holds16 ? settings.depth : 8);
  const bytes = await compress(pixelsOf(atDepth), atDepth.width * atDepth.height, settings).toBuffer();
  return embed(bytes, settings.format, carried, atDepth);
}
