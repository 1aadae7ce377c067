import type { Histogram } from '@fennip/core/finish';
import type { Raster } from '@fennip/core/raster';
import { framingOf, histogramOf } from '@fennip/core/finish';
import { viewRaster } from '@fennip/core/raster';
import { framePart } from '../../paint/framePart.ts';
import type { OpenPicture } from '../openPicture.ts';
import { finishOf } from '../openPicture.ts';
import { finished } from '../paintSide.ts';
import { wholeSmall } from './wholeSmall.ts';

/** How many pixels of the whole picture have which value, before the finish and under it. */
export async function histograms(picture: OpenPicture): Promise<Record<'before' | 'after', Histogram>> {
  await picture.turn;
  const { level, raster } = await wholeSmall(picture);
  const shape = picture.tiles.picture;
  const framing = framingOf(shape, finishOf(picture));
  const framed = async (whole: Raster): Promise<Raster> => {
    if (!framing) return whole;
    // A small crop has fewer levels than its picture; on this one it is as many times smaller all the same.
    const side = (length: number): number => Math.ceil(length / 2 ** level);
    const all = { left: 0, top: 0, width: side(framing.width), height: side(framing.height) };
    return framePart(framing, shape, all, level, (rect) => Promise.resolve(viewRaster(whole, rect)));
  };
  return {
    before: histogramOf(await framed(raster)),
    after: histogramOf(await framed(await finished(picture, raster, { level, left: 0, top: 0 }))),
  };
}
