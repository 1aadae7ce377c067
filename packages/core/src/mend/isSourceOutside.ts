import type { PictureShape } from '../raster/raster.ts';
import { isEmpty } from '../raster/rect.ts';
import { sourceReads } from '../source/sampleSource.ts';
import { footprintRect } from '../target/targetField.ts';
import { targetMiddle } from '../target/targetMiddle.ts';
import type { Mend } from './mend.ts';
import { sourceOf } from './mend.ts';

/** True if a mend takes all it lays down from beyond the picture, where there is nothing. */
export function isSourceOutside(mend: Mend, picture: PictureShape): boolean {
  const source = sourceOf(mend);
  const footprint = footprintRect(mend, picture);
  // A mend that lies beyond the picture itself wants nothing from it.
  if (!source || isEmpty(footprint)) return false;
  return isEmpty(sourceReads(source, targetMiddle(mend.target), footprint, picture));
}
