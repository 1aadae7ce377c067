import type { FinishStep } from '@fennip/core/finish';
import type { Raster, Rect } from '@fennip/core/raster';
import { growRect, intersectRects, viewRaster } from '@fennip/core/raster';
import { finishReachOn } from '../../paint/finishPart.ts';
import type { OpenPicture } from '../openPicture.ts';
import { groundOf, wholeOf } from '../openPicture.ts';
import { mendedPixels } from '../paintSide.ts';

/** Full-size pixels of the upright picture, mended, under the value steps of a finish. */
export async function finishedPixels(
  picture: OpenPicture,
  rect: Rect,
  steps: readonly FinishStep[],
): Promise<Raster> {
  const wide = intersectRects(growRect(rect, finishReachOn(steps, 0)), wholeOf(picture));
  const mended = await mendedPixels(picture, wide);
  const ground = { ...groundOf(picture), steps };
  const raster = await picture.table.team.finish(mended, { level: 0, ...wide }, ground);
  return viewRaster(raster, { ...rect, left: rect.left - wide.left, top: rect.top - wide.top });
}
