import type { ReadFormat } from './readFormat.ts';
import { ascii } from './readFormat.ts';

/** By its signature (RFC 9649). */
export const webpRead: ReadFormat = {
  label: 'WebP',
  matches: (head) => ascii(head, 0, 4) === 'RIFF' && ascii(head, 8, 12) === 'WEBP',
};
