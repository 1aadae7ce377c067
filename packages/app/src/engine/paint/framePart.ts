import type { Framing } from '@fennip/core/finish';
import type { PictureShape, Raster, Rect } from '@fennip/core/raster';
import { applyFraming, framingReads } from '@fennip/core/finish';
import {
  createRaster,
  fullScale,
  intersectRects,
  isEmpty,
  pictureRect,
  pyramidLevels,
} from '@fennip/core/raster';
import type { TileKey } from './tileKey.ts';
import { coveredRect } from './tileKey.ts';

/** The rectangle of the upright original that a tile of a framed picture shows, roughly: never too small. */
export const framedRect = (key: TileKey, framing: Framing | null): Rect =>
  framing ? framingReads(framing, coveredRect(key), 1) : coveredRect(key);

/**
 * A part of a level of a framed picture.
 *
 * @param shape the full-size upright original
 * @param read a part of the upright original on the same level
 */
export async function framePart(
  framing: Framing,
  shape: PictureShape,
  part: Rect,
  level: number,
  read: (rect: Rect) => Promise<Raster>,
): Promise<Raster> {
  const picture = { ...shape, ...pyramidLevels(shape.width, shape.height)[level] };
  const times = 2 ** level;
  const rect = intersectRects(framingReads(framing, part, times), pictureRect(picture));
  if (isEmpty(rect)) {
    const paper = createRaster(part.width, part.height, shape.channels, shape.depth);
    for (const plane of paper.planes) plane.fill(fullScale(shape.depth));
    return paper;
  }
  const raster = await read(rect);
  return applyFraming(framing, { left: rect.left, top: rect.top, raster, picture }, part, times);
}
