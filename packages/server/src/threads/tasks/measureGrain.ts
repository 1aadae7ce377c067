import type { GrainModel } from '@fennip/core/grain';
import { measureGrainModel } from '@fennip/core/grain';
import { pictureRect } from '@fennip/core/raster';
import type { Original } from './original.ts';
import { pixelsOfOriginal } from './original.ts';

/** The grain of a picture, measured on its calmest parts. */
export async function measureGrain(of: Original): Promise<GrainModel> {
  const { shape, window } = await pixelsOfOriginal(of);
  return measureGrainModel(window(pictureRect(shape)).raster);
}
