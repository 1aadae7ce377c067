import type { GrainModel } from '@fennip/core/grain';
import type { Raster, Rect } from '@fennip/core/raster';
import { grainShare } from '@fennip/core/grain';
import { lumaPlane } from '@fennip/core/raster';
import type { OpenPicture } from '../openPicture.ts';
import { pixelsWithout } from '../openPicture.ts';
import { mendedPixels } from '../paintSide.ts';

/** How far around a pixel its grain is measured, in pixels. */
const GRAIN_AROUND = 6;

/**
 * How much of the grain its brightness lets expect a part of the picture has, as deviations: without a mend and with it.
 *
 * @param id of the mend
 */
export async function grainIn(
  picture: OpenPicture,
  rect: Rect,
  model: Pick<GrainModel, 'kernel' | 'noise'>,
  id: string,
): Promise<Record<'before' | 'after', number>> {
  await picture.turn;
  const without = await pixelsWithout(picture, id, rect);
  const grainOf = (raster: Raster): number => {
    const share = grainShare(lumaPlane(raster), model, GRAIN_AROUND);
    return Math.sqrt(share.reduce((sum, value) => sum + value, 0) / share.length);
  };
  const before = grainOf(without.window(rect).raster);
  return { before, after: grainOf(await mendedPixels(picture, rect)) };
}
