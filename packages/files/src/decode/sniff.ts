import { said } from '@fennip/words';
import { open } from 'node:fs/promises';
import { basename } from 'node:path';
import { PictureError } from '../errors/pictureError.ts';
import { ascii } from '../read/readFormat.ts';
import type { PictureFormat } from '../read/readFormats.ts';
import { READ_FORMATS, READ_FORMAT_NAMES, readFormatLabels } from '../read/readFormats.ts';

/** Formats that are pictures, but not ones that can be mended here, told by their first bytes. */
function foreignFormat(head: Buffer): string | null {
  if (ascii(head, 0, 4) === 'GIF8') return 'GIF';
  if (ascii(head, 0, 2) === 'BM') return 'BMP';
  if (ascii(head, 0, 4) === '8BPS') return 'layered editor';
  if (ascii(head, 4, 8) === 'ftyp') return 'HEIF or AVIF';
  if (ascii(head, 0, 4) === '%PDF') return 'PDF';
  if (/^\s*(<\?xml[^>]*>\s*)?(<!--.*?-->\s*)?<svg/is.test(ascii(head, 0, head.length))) return 'SVG';
  return null;
}

/** The format that a file's first bytes say. @throws PictureError where it is none that is read */
export function formatOf(head: Buffer): PictureFormat {
  const format = READ_FORMAT_NAMES.find((name) => READ_FORMATS[name].matches(head));
  if (format) return format;
  const foreign = foreignFormat(head);
  if (foreign)
    throw new PictureError(
      'unsupported',
      said('file.foreign', { format: foreign, formats: readFormatLabels() }),
    );
  throw new PictureError('not a picture', said('file.notAPicture', { formats: readFormatLabels() }));
}

/** Reads the first bytes of a file and tells its format. @throws PictureError */
export async function sniffFormat(path: string): Promise<PictureFormat> {
  const file = await open(path, 'r').catch((cause: unknown) => {
    throw new PictureError('missing', said('file.missing', { path: basename(path) }), { cause });
  });
  try {
    const head = Buffer.alloc(512);
    const { bytesRead } = await file.read(head, 0, head.length, 0).catch((cause: unknown) => {
      throw new PictureError('missing', said('file.missing', { path: basename(path) }), { cause });
    });
    if (bytesRead === 0) throw new PictureError('not a picture', said('file.empty'));
    return formatOf(head.subarray(0, bytesRead));
  } finally {
    await file.close();
  }
}
