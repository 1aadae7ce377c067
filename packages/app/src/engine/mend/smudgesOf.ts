import type { Fault } from '@fennip/core/fault';
import { createGrainCells, findSmudges, measureGrainCells } from '@fennip/core/examine';
import { TILE_SIZE } from '@fennip/core/raster';
import { measurePictureGrain } from './measurePictureGrain.ts';
import type { TileStore } from '../paint/tileStore.ts';

/** Looks for missing grain over the whole picture, tile by tile. */
export async function smudgesOf(tiles: TileStore): Promise<Fault[]> {
  const { width, height } = tiles.picture;
  const model = await measurePictureGrain(tiles);
  const cells = createGrainCells(width, height);
  for (let row = 0; row * TILE_SIZE < height; row++)
    for (let column = 0; column * TILE_SIZE < width; column++) {
      const [left, top] = [column * TILE_SIZE, row * TILE_SIZE];
      // Makes room now and then: the whole picture must not be held at once.
      await tiles.ready([{ left, top, width: 1, height: 1 }]);
      measureGrainCells(cells, await tiles.tile(0, column, row), model, { left, top });
    }
  return findSmudges(cells);
}
