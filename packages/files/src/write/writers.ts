import type { WrittenFormatName } from '@fennip/core/picture';
import type { WRITTEN_FORMATS } from '@fennip/core/picture';
import { jpegWriter } from './jpeg.ts';
import { pngWriter } from './png.ts';
import { tiffWriter } from './tiff.ts';
import { webpWriter } from './webp.ts';
import type { Writer } from './writer.ts';

/** Formats of one layer; those in layers are put together from them. */
export type FlatFormat = {
  [N in WrittenFormatName]: (typeof WRITTEN_FORMATS)[N]['isLayered'] extends true ? never : N;
}[WrittenFormatName];

export const WRITERS: Readonly<Record<FlatFormat, Writer>> = {
  jpeg: jpegWriter,
  png: pngWriter,
  tiff: tiffWriter,
  webp: webpWriter,
};

export const FLAT_FORMATS = Object.keys(WRITERS) as readonly FlatFormat[];
