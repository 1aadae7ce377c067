import type { FramingBase } from '../stepBase.ts';

/** What is kept of the picture, in whole pixels of the picture as it lies after lens and straightening. */
export interface CropStep extends FramingBase {
  readonly method: 'crop';
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}
