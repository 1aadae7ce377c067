import { open } from 'node:fs/promises';
import { PictureError } from '../pictureError.ts';

/** File formats that pictures come and go in. */
export type PictureFormat = 'jpeg' | 'png' | 'tiff' | 'webp';

const startsWith = (head: Buffer, bytes: readonly number[]): boolean =>
  bytes.every((byte, i) => head[i] === byte);
const ascii = (head: Buffer, from: number, to: number): string => head.toString('latin1', from, to);

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

/** Tells a format by the first bytes of its file (JPEG, PNG, TIFF and WebP by their published signatures). */
export function formatOf(head: Buffer): PictureFormat {
  if (startsWith(head, [0xff, 0xd8, 0xff])) return 'jpeg';
  if (startsWith(head, [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a])) return 'png';
  if (startsWith(head, [0x49, 0x49, 0x2a, 0]) || startsWith(head, [0x4d, 0x4d, 0, 0x2a])) return 'tiff';
  if (startsWith(head, [0x49, 0x49, 0x2b, 0]) || startsWith(head, [0x4d, 0x4d, 0, 0x2b])) return 'tiff';
  if (ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WEBP') return 'webp';
  const foreign = foreignFormat(head);
  if (foreign)
    throw new PictureError(
      'unsupported',
      `This is a ${foreign} file. Fennip opens JPEG, PNG, TIFF and WebP: save the picture as one of those.`,
    );
  throw new PictureError('not a picture', 'This is not a picture. Fennip opens JPEG, PNG, TIFF and WebP.');
}

/** Reads the first bytes of a file and tells its format. @throws PictureError */
export async function sniffFormat(path: string): Promise<PictureFormat> {
  const file = await open(path, 'r').catch((cause: unknown) => {
    throw new PictureError('missing', `There is no readable file at ${path}.`, { cause });
  });
  try {
    const head = Buffer.alloc(512);
    const { bytesRead } = await file.read(head, 0, head.length, 0).catch((cause: unknown) => {
      throw new PictureError('missing', `There is no readable file at ${path}.`, { cause });
    });
    if (bytesRead === 0) throw new PictureError('not a picture', 'This file is empty.');
    return formatOf(head.subarray(0, bytesRead));
  } finally {
    await file.close();
  }
}
