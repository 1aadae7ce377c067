import type { ReadFormat } from './readFormat.ts';
import { startsWith } from './readFormat.ts';

/** By its signature (ISO/IEC 10918-1). */
export const jpegRead: ReadFormat = {
  label: 'JPEG',
  matches: (head) => startsWith(head, [0xff, 0xd8, 0xff]),
};
