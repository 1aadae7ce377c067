import type { FinishStep } from '@fennip/core/finish';
import type { Point } from '@fennip/core/target';
import { colourFloats, fullScale, growRect, intersectRects, isEmpty } from '@fennip/core/raster';
import type { OpenPicture } from '../openPicture.ts';
import { wholeOf } from '../openPicture.ts';
import { finishedPixels } from './finishedPixels.ts';

/** A tone is picked from so many pixels on every side, so that grain does not decide. */
const PICKED_AROUND = 2;

/**
 * The mean of each colour channel around a place of the upright original under some steps of the finish, 0 to 1,
 * encoded: what the restorer points at. None outside the picture.
 */
export async function toneAt(
  picture: OpenPicture,
  [x, y]: Point,
  steps: readonly FinishStep[],
): Promise<number[]> {
  await picture.turn;
  const point = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
  const rect = intersectRects(growRect(point, PICKED_AROUND), wholeOf(picture));
  if (isEmpty(rect)) return [];
  const part = await finishedPixels(picture, rect, steps);
  const top = fullScale(part.depth);
  return colourFloats(part).map((plane) => plane.reduce((a, b) => a + b, 0) / plane.length / top);
}
