import type { PictureFormat } from '../decode/sniff.ts';
import { PictureError } from '../pictureError.ts';

const ENDINGS: Record<string, PictureFormat> = {
  jpg: 'jpeg',
  jpeg: 'jpeg',
  png: 'png',
  tif: 'tiff',
  tiff: 'tiff',
  webp: 'webp',
};

/** The format that a file name's ending asks for. @throws PictureError for any other ending */
export function formatOfName(name: string): PictureFormat {
  const ending = /\.([a-z]+)$/i.exec(name)?.[1]?.toLowerCase() ?? '';
  const format = ENDINGS[ending];
  if (!format)
    throw new PictureError('unsupported', `The name ${name} should end in .jpg, .png, .tif or .webp.`);
  return format;
}

/** The usual ending of a format, without the dot. */
export const ENDING_OF: Record<PictureFormat, string> = {
  jpeg: 'jpg',
  png: 'png',
  tiff: 'tif',
  webp: 'webp',
};
