import type { DepartureHistogram } from '@fennip/core/lamp';
import { departureHistogram } from '@fennip/core/lamp';
import type { OpenPicture } from '../openPicture.ts';
import { wholeSmall } from './wholeSmall.ts';

/** The least scale at which anything can depart from its surroundings, in pixels of the level. */
const LEAST_SCALE = 0.7;

/** How many pixels depart by how much from their surroundings, at a scale in pixels of the picture. */
export async function departures(picture: OpenPicture, scale: number): Promise<DepartureHistogram> {
  const { level, raster } = await wholeSmall(picture);
  return departureHistogram(raster, Math.max(LEAST_SCALE, scale / 2 ** level));
}
