import type { ReadFormat } from './readFormat.ts';
import { startsWith } from './readFormat.ts';

/** By its signature (ISO/IEC 15948). */
export const pngRead: ReadFormat = {
  label: 'PNG',
  matches: (head) => startsWith(head, [0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]),
};
