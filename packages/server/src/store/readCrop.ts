import { open } from 'node:fs/promises';
import type { Raster, Rect } from '@fennip/core/raster';
import {
  TILE_SIZE,
  bytesPerSample,
  copyRaster,
  createRaster,
  intersectRects,
  isEmpty,
  pyramidLevels,
  rasterOver,
  rectsMeet,
  viewRaster,
} from '@fennip/core/raster';
import type { PictureRow } from '../rows/pictureRows.ts';
import { levelPath, tileRange } from './pyramid.ts';

/** A part of a level of a picture, with where it lies on the level. */
export interface Crop {
  readonly raster: Raster;
  readonly rect: Rect;
}

/**
 * Reads a part of a picture from its stored tiles, without decoding the file.
 *
 * @param level 0 for full size
 * @param wanted on the level
 * @returns null where it lies outside the picture
 */
export async function readCrop(
  folder: string,
  { width, height, depth, channels }: Pick<PictureRow, 'width' | 'height' | 'depth' | 'channels'>,
  level: number,
  wanted: Rect,
): Promise<Crop | null> {
  const size = pyramidLevels(width, height)[level];
  const rect = size && intersectRects(wanted, { left: 0, top: 0, width: size.width, height: size.height });
  if (!rect || isEmpty(rect)) return null;
  const raster = createRaster(rect.width, rect.height, channels, depth);
  const file = await open(levelPath(folder, level), 'r');
  try {
    const first = (at: number): number => Math.floor(at / TILE_SIZE);
    for (let row = first(rect.top); row * TILE_SIZE < rect.top + rect.height; row++)
      for (let column = first(rect.left); column * TILE_SIZE < rect.left + rect.width; column++) {
        const range = tileRange(size, column, row, channels, depth);
        if (!range) continue;
        const bytes = Buffer.alloc(range.end - range.start + 1);
        await file.read(bytes, 0, bytes.length, range.start);
        const tileWidth = Math.min(TILE_SIZE, size.width - column * TILE_SIZE);
        const tileHeight = bytes.length / tileWidth / channels / bytesPerSample(depth);
        const buffer = bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length);
        const tile = rasterOver(buffer, tileWidth, tileHeight, channels, depth);
        const at = { left: column * TILE_SIZE, top: row * TILE_SIZE, width: tileWidth, height: tileHeight };
        if (!rectsMeet(at, rect)) continue;
        const part = intersectRects(at, rect);
        copyRaster(
          viewRaster(tile, { ...part, left: part.left - at.left, top: part.top - at.top }),
          raster,
          part.left - rect.left,
          part.top - rect.top,
        );
      }
  } finally {
    await file.close();
  }
  return { raster, rect };
}
