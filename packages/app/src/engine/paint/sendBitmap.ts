import type { Raster } from '@fennip/core/raster';
import { transfer } from 'comlink';
import { toBitmap } from './toBitmap.ts';

/** A raster as the screen takes it, given away to the page. */
export async function sendBitmap(raster: Raster): Promise<ImageBitmap> {
  const bitmap = await toBitmap(raster);
  return transfer(bitmap, [bitmap]);
}
