import { randomUUID } from 'node:crypto';
import { mkdir, open, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Depth, LevelSize, PictureShape, Raster } from '@fennip/core/raster';
import { TILE_SIZE, bytesPerSample, halveRaster, pyramidLevels } from '@fennip/core/raster';
import { roomErrorOf } from '../errors/noRoom.ts';
import { DamagedFileError } from './store.ts';

/** The file of one level: its tiles row after row, each planar and raw, so that any of them is one range of bytes. */
export const levelPath = (folder: string, level: number): string => join(folder, `${level}.tiles`);

export interface TileRange {
  readonly width: number;
  readonly height: number;
  /** First and last byte in the level's file. */
  readonly start: number;
  readonly end: number;
}

/** Where a tile stands in its level's file; null when there is no such tile. */
export function tileRange(
  level: LevelSize,
  column: number,
  row: number,
  channels: number,
  depth: Depth,
): TileRange | null {
  const left = column * TILE_SIZE;
  const top = row * TILE_SIZE;
  if (left < 0 || top < 0 || left >= level.width || top >= level.height) return null;
  const width = Math.min(TILE_SIZE, level.width - left);
  const height = Math.min(TILE_SIZE, level.height - top);
  const perPixel = channels * bytesPerSample(depth);
  const start = (top * level.width + left * height) * perPixel;
  return { width, height, start, end: start + width * height * perPixel - 1 };
}

/** Bytes of the file of one level. */
export const levelBytes = (
  { width, height }: Omit<LevelSize, 'level'>,
  channels: number,
  depth: Depth,
): number => width * height * channels * bytesPerSample(depth);

/** Bytes that the pyramid of a picture takes up. */
export const pyramidBytes = ({
  width,
  height,
  channels,
  depth,
}: Pick<PictureShape, 'width' | 'height' | 'channels' | 'depth'>): number =>
  pyramidLevels(width, height).reduce((sum, level) => sum + levelBytes(level, channels, depth), 0);

/** One row of tiles as the bytes of its file. */
function tileRow(raster: Raster, top: number): Uint8Array {
  const { width, depth, planes, stride } = raster;
  const height = Math.min(TILE_SIZE, raster.height - top);
  const size = width * height * planes.length;
  const bytes = depth === 16 ? new Uint16Array(size) : new Uint8Array(size);
  let onto = 0;
  for (let left = 0; left < width; left += TILE_SIZE) {
    const end = Math.min(width, left + TILE_SIZE);
    for (const plane of planes) {
      for (let y = top; y < top + height; y++) {
        bytes.set(plane.subarray(y * stride + left, y * stride + end), onto);
        onto += end - left;
      }
    }
  }
  return new Uint8Array(bytes.buffer);
}

/** Writes the file of one level under a name of its own first: two pictures of the same content may be prepared at once. */
async function writeLevel(path: string, raster: Raster): Promise<void> {
  const part = `${path}.${randomUUID()}.part`;
  const file = await open(part, 'wx');
  try {
    for (let top = 0; top < raster.height; top += TILE_SIZE) await file.writeFile(tileRow(raster, top));
    await file.sync();
    const { size } = await stat(part);
    if (size !== levelBytes(raster, raster.planes.length, raster.depth)) throw new DamagedFileError(part);
    await rename(part, path);
  } catch (error) {
    await rm(part, { force: true });
    throw roomErrorOf(error);
  } finally {
    await file.close();
  }
}

/**
 * Writes all levels of a raster's pyramid, the smallest first, so that the picture can be opened at once.
 *
 * @param written called after each level with its number (0 is full size) and the share of the work done
 * @throws NoRoomError
 */
export async function writePyramid(
  folder: string,
  raster: Raster,
  written: (level: number, share: number) => void,
): Promise<void> {
  await mkdir(folder, { recursive: true });
  const rasters = [raster];
  const sizes = pyramidLevels(raster.width, raster.height);
  while (rasters.length < sizes.length) rasters.push(halveRaster(rasters[rasters.length - 1]));
  const total = sizes.reduce((sum, { width, height }) => sum + width * height, 0);
  let done = 0;
  for (let level = sizes.length - 1; level >= 0; level--) {
    await writeLevel(levelPath(folder, level), rasters[level]);
    done += sizes[level].width * sizes[level].height;
    written(level, done / total);
  }
}
