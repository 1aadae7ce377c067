import type { GrainModel } from '@fennip/core/grain';
import { measureGrainModel } from '@fennip/core/grain';
import { TILE_SIZE, copyRaster, createRaster } from '@fennip/core/raster';
import type { TileStore } from '../paint/tileStore.ts';

/** Tiles that are looked at along each side: grain is the same all over, so that a part of the picture tells it. */
const TILES_ACROSS = 4;

let measured: { readonly tiles: TileStore; readonly grain: Promise<GrainModel> } | null = null;

/** So many places along a side, spread evenly. */
function spread(count: number): number[] {
  const taken = Math.min(count, TILES_ACROSS);
  return Array.from({ length: taken }, (_, k) => Math.floor(((k + 0.5) * count) / taken));
}

async function measure({ picture, tile }: TileStore): Promise<GrainModel> {
  // Only tiles that are whole: what is beyond a border would be black.
  const columns = spread(Math.max(1, Math.floor(picture.width / TILE_SIZE)));
  const rows = spread(Math.max(1, Math.floor(picture.height / TILE_SIZE)));
  const [first] = await Promise.all([tile(0, 0, 0)]);
  const [width, height] = [Math.min(TILE_SIZE, first.width), Math.min(TILE_SIZE, first.height)];
  const mosaic = createRaster(columns.length * width, rows.length * height, picture.channels, picture.depth);
  for (const [i, row] of rows.entries())
    for (const [j, column] of columns.entries())
      copyRaster(await tile(0, column, row), mosaic, j * width, i * height);
  return measureGrainModel(mosaic);
}

/** The grain of the open picture; measured once. */
export function measurePictureGrain(tiles: TileStore): Promise<GrainModel> {
  if (measured?.tiles !== tiles) measured = { tiles, grain: measure(tiles) };
  return measured.grain;
}
