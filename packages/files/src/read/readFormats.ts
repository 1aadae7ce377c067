import type { Said } from '@fennip/words';
import { said } from '@fennip/words';
import { jpegRead } from './jpeg.ts';
import { pngRead } from './png.ts';
import type { ReadFormat } from './readFormat.ts';
import { tiffRead } from './tiff.ts';
import { webpRead } from './webp.ts';

const FORMATS = { jpeg: jpegRead, png: pngRead, tiff: tiffRead, webp: webpRead };

/** The formats that pictures are read from. */
export type PictureFormat = keyof typeof FORMATS;

export const READ_FORMATS: Readonly<Record<PictureFormat, ReadFormat>> = FORMATS;

export const READ_FORMAT_NAMES = Object.keys(FORMATS) as readonly PictureFormat[];

/** "JPEG, PNG, TIFF and WebP" */
export function readFormatLabels(): Said {
  const labels = READ_FORMAT_NAMES.map((name) => READ_FORMATS[name].label);
  return said('list.and', { some: labels.slice(0, -1).join(', '), last: labels[labels.length - 1] });
}
