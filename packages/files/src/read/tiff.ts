import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { exifOfTiff } from '../embed/tiff.ts';
import type { ReadFormat } from './readFormat.ts';
import { startsWith } from './readFormat.ts';

/** The capture data of a TIFF, which the decoder does not hand over, read from the file itself. */
function exifInTiff(path: string): Buffer | undefined {
  const file = openSync(path, 'r');
  try {
    return exifOfTiff({
      length: fstatSync(file).size,
      subarray: (start, end) => {
        const bytes = Buffer.alloc(end - start);
        readSync(file, bytes, 0, bytes.length, start);
        return bytes;
      },
    });
  } finally {
    closeSync(file);
  }
}

/** Both byte orders, with offsets of 32 and of 64 bits (TIFF 6.0; BigTIFF). */
const SIGNATURES = [
  [0x49, 0x49, 0x2a, 0],
  [0x4d, 0x4d, 0, 0x2a],
  [0x49, 0x49, 0x2b, 0],
  [0x4d, 0x4d, 0, 0x2b],
];

export const tiffRead: ReadFormat = {
  label: 'TIFF',
  matches: (head) => SIGNATURES.some((signature) => startsWith(head, signature)),
  exifIn: exifInTiff,
  // It holds a number in any case.
  needsDensityUnit: true,
};
