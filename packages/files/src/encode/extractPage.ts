import type { Limits } from '../decode/header.ts';
import { DEFAULT_LIMITS } from '../decode/header.ts';
import { decodePicture } from '../decode/decodePicture.ts';
import { ENCODE_DEFAULTS, encodePicture } from './encodePicture.ts';

/**
 * One picture of a file that holds several, as a TIFF of its own: the same values at the same depth, upright, with the profile
 * and the capture data that its file carries.
 *
 * @param page from 0
 * @throws PictureError when there is no such page, or it is refused
 */
export async function extractPage(
  path: string,
  page: number,
  limits: Limits = DEFAULT_LIMITS,
): Promise<Buffer> {
  const { raster, header } = await decodePicture(path, limits, page);
  return encodePicture(raster, header, { ...ENCODE_DEFAULTS, format: 'tiff', depth: raster.depth });
}
