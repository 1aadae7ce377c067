import { mulberry } from '@fennip/core/random';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';

/** A small grainy picture, another for each number. */
export function smallPicture(seed: number, width = 160, height = 120): Promise<Buffer> {
  const chance = mulberry(seed);
  const raster = createRaster(width, height, 3, 8);
  for (const plane of raster.planes) for (let i = 0; i < plane.length; i++) plane[i] = 90 + 60 * chance();
  return encodePicture(raster, {}, { format: 'png', depth: 8, quality: 100 });
}
