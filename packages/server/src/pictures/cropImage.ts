import { pyramidLevels } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import type { Context } from '../context/context.ts';
import { readCrop } from '../store/readCrop.ts';
import type { PictureRow } from '../rows/pictureRows.ts';

/** The longest side of an image that is sent, in its own pixels. */
const MOST_SIDE = 512;

/** A square of a picture, in pixels of the upright picture. */
export interface Square {
  readonly x: number;
  readonly y: number;
  /** Half of its side. */
  readonly half: number;
}

/**
 * A small image of a place, as the picture came in: at full size where that is small enough, else from a smaller level.
 * What lies outside the picture is left out.
 *
 * @returns a PNG; null where the place lies outside the picture
 */
export async function cropImage(
  { store }: Context,
  picture: PictureRow,
  { x, y, half }: Square,
): Promise<Buffer | null> {
  const levels = pyramidLevels(picture.width, picture.height).length;
  const level = Math.min(levels - 1, Math.max(0, Math.ceil(Math.log2((2 * half) / MOST_SIDE))));
  const step = 2 ** level;
  const side = Math.max(1, Math.round((2 * half) / step));
  const rect = {
    left: Math.round((x - half) / step),
    top: Math.round((y - half) / step),
    width: side,
    height: side,
  };
  const crop = await readCrop(store.pyramidPath(picture.sha256), picture, level, rect);
  return crop && encodePicture(crop.raster, {}, { format: 'png', quality: 100, depth: 8 });
}
