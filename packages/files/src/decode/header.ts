import { said } from '@fennip/words';
import type { Transfer } from '@fennip/core/light';
import type { Depth } from '@fennip/core/raster';
import type { Metadata } from 'sharp';
import sharp from 'sharp';
import type { CarriedData } from '../embed/carriedData.ts';
import { PictureError } from '../errors/pictureError.ts';
import { exifDensity } from '../embed/exif.ts';
import { iptcOf } from '../embed/iptc.ts';
import { transferOf } from './transferOf.ts';
import type { PictureFormat } from '../read/readFormats.ts';
import { READ_FORMATS } from '../read/readFormats.ts';
import { sniffFormat } from './sniff.ts';

/** What is known of a picture before its pixels are decoded; sides are those of the upright picture. */
export interface PictureHeader extends CarriedData {
  readonly format: PictureFormat;
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
  readonly channels: number;
  /** Values are cyan, magenta, yellow, black and are turned into sRGB when decoded. */
  readonly isCmyk: boolean;
  /** How many pictures the file holds; the header is that of one of them. */
  readonly pages: number;
  /** What the values mean in light, for each colour channel; sRGB where it is missing. */
  readonly transfer?: readonly Transfer[];
}

export interface Limits {
  /** The most pixels a picture may have. */
  readonly pixels: number;
}

export const DEFAULT_LIMITS: Limits = { pixels: 150e6 };

/**
 * Opens a file for decoding; values stay in the file's own profile unless they are to be turned into sRGB.
 *
 * @param page of a file that holds several pictures, from 0
 */
export const openPicture = (path: string, ignoreIcc: boolean, page: number) =>
  sharp(path, { limitInputPixels: false, ignoreIcc, failOn: 'warning', page });

/** A packet that is larger is none: it would be worked on for minutes. */
const MOST_XMP_BYTES = 16e6;

const megapixels = (pixels: number): string => (pixels / 1e6).toFixed(pixels < 10e6 ? 1 : 0);

async function readMetadata(path: string, page: number): Promise<Metadata> {
  try {
    return await openPicture(path, true, page).metadata();
  } catch (cause) {
    throw new PictureError('broken', said('file.brokenHeader'), {
      cause,
    });
  }
}

function depthOf(metadata: Metadata): Depth {
  if (metadata.depth === 'uchar') return 8;
  if (metadata.depth === 'ushort') return 16;
  throw new PictureError('unsupported', said('file.samples', { type: metadata.depth ?? '?' }));
}

function exifOf(path: string, format: PictureFormat, metadata: Metadata): Buffer | undefined {
  if (metadata.exif) return stripPrefix(metadata.exif);
  return READ_FORMATS[format].exifIn?.(path);
}

/** A packet as text, without the zeros that some writers end it with. */
const textOf = (xmp: Buffer): string => xmp.toString('utf8').replace(/\0+$/, '');

/** Some readers hand the block over with the six bytes that mark it inside a JPEG. */
const stripPrefix = (exif: Buffer): Buffer =>
  exif.toString('latin1', 0, 4) === 'Exif' ? Buffer.from(exif.subarray(6)) : exif;

/**
 * Reads a picture file's header and what it carries. The format is told by content, not by name.
 *
 * @param page of a file that holds several pictures, from 0
 * @throws PictureError when it is no picture, broken, of a kind that is not opened, or has too many pixels
 */
export async function readHeader(
  path: string,
  limits: Limits = DEFAULT_LIMITS,
  page = 0,
): Promise<PictureHeader> {
  const format = await sniffFormat(path);
  const metadata = await readMetadata(path, page);
  const turned = (metadata.orientation ?? 1) >= 5;
  const [width, height] = turned ? [metadata.height, metadata.width] : [metadata.width, metadata.height];
  if (width * height > limits.pixels)
    throw new PictureError(
      'too many pixels',
      said('file.tooManyPixels', { n: megapixels(width * height), most: megapixels(limits.pixels) }),
    );
  const isCmyk = metadata.space === 'cmyk';
  const isGrey = metadata.channels <= 2;
  const exif = exifOf(path, format, metadata);
  const transfer = isCmyk ? undefined : transferOf(metadata.icc, isGrey);
  const iptc = iptcOf(metadata.iptc);
  const hasDensity = !READ_FORMATS[format].needsDensityUnit || metadata.resolutionUnit !== undefined;
  const density = hasDensity ? (metadata.density ?? exifDensity(exif)) : undefined;
  return {
    format,
    width,
    height,
    depth: depthOf(metadata),
    channels: (isGrey ? 1 : 3) + (metadata.hasAlpha ? 1 : 0),
    isCmyk,
    pages: metadata.pages ?? 1,
    ...(metadata.icc && !isCmyk ? { icc: metadata.icc } : {}),
    ...(transfer ? { transfer } : {}),
    ...(exif ? { exif } : {}),
    ...(density ? { density } : {}),
    ...(metadata.xmp && metadata.xmp.length <= MOST_XMP_BYTES ? { xmp: textOf(metadata.xmp) } : {}),
    ...(iptc ? { iptc } : {}),
  };
}
