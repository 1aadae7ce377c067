import type { Plane, Raster, Rect } from '@fennip/core/raster';
import { framingOf } from '@fennip/core/finish';
import { cloneRaster } from '@fennip/core/raster';
import { framePart } from '../../paint/framePart.ts';
import type { OpenPicture } from '../openPicture.ts';
import { finishOf } from '../openPicture.ts';
import { settled } from '../showChanges.ts';
import { finishedPixels } from './finishedPixels.ts';

/** The full-size samples of a part of the finished picture, plane after plane, each in memory of its own: what a delivery must hold. */
export async function samples(picture: OpenPicture, rect: Rect): Promise<Plane[]> {
  await settled(picture);
  const steps = finishOf(picture);
  const framing = framingOf(picture.tiles.picture, steps);
  const upright = (part: Rect): Promise<Raster> => finishedPixels(picture, part, steps);
  const { planes } = cloneRaster(
    framing ? await framePart(framing, picture.tiles.picture, rect, 0, upright) : await upright(rect),
  );
  return planes.map((plane) => plane.slice());
}
