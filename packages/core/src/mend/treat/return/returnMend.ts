import type { MendBase } from '../../mendBase.ts';

/** What came back from another program: values of its own for the pixels that were changed there. */
export interface ReturnMend extends MendBase {
  readonly method: 'return';
  /** Of the values: that of the picture. */
  readonly depth: 8 | 16;
  /** Encoded values inside of the target, a mask: plane after plane, row after row, as bytes in base64, low byte first. */
  readonly values: string;
}
