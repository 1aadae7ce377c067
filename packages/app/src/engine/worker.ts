import type { MendedPicture, Raster, Recipe, Rect } from '@fennip/core';
import { createMendedPicture, createRaster, fullScale } from '@fennip/core';
import { expose, transfer } from 'comlink';
import { fetchTile } from './fetchTile.ts';
import { mendTile } from './paintTile.ts';
import type { TileStore, TiledPicture } from './tileStore.ts';
import { createTileStore } from './tileStore.ts';
import { toBitmap } from './toBitmap.ts';

/** The picture without its mends, or with them. */
export type Side = 'before' | 'after';

/** How a worker asks another for a tile. */
export type TileLender = (level: number, column: number, row: number) => Promise<SharedArrayBuffer>;

interface OpenPicture {
  readonly tiles: TileStore;
  readonly mended: MendedPicture;
  /** Updates run one after the other; each sees what the one before it left. */
  turn: Promise<void>;
}

/** Tiles are kept up to this many bytes: a 24-megapixel picture of 16 bit with room to spare. */
const MOST_BYTES = 384e6;

let open: OpenPicture | null = null;

function opened(): OpenPicture {
  if (!open) throw new Error('no picture is open');
  return open;
}

const sendBitmap = async (raster: Raster): Promise<ImageBitmap> => {
  const bitmap = await toBitmap(raster);
  return transfer(bitmap, [bitmap]);
};

/** The difference between two rasters, strengthened and laid around middle grey. */
function difference(before: Raster, after: Raster, gain: number): Raster {
  const out = createRaster(before.width, before.height, before.planes.length >= 3 ? 3 : 1, before.depth);
  const top = fullScale(before.depth);
  out.planes.forEach((plane, c) => {
    for (let y = 0; y < before.height; y++)
      for (let x = 0; x < before.width; x++) {
        const change = after.planes[c][y * after.stride + x] - before.planes[c][y * before.stride + x];
        plane[y * out.stride + x] = Math.max(0, Math.min(top, Math.round(top / 2 + gain * change)));
      }
  });
  return out;
}

async function pixelsOf(rect: Rect, side: Side): Promise<Raster> {
  const { tiles, mended } = opened();
  await tiles.ready([rect]);
  return (side === 'before' ? tiles.pixels : mended.pixels).window(rect).raster;
}

const api = {
  /** Opens a picture; what was open before is let go. */
  open(picture: TiledPicture): void {
    const tiles = createTileStore(picture, fetchTile, MOST_BYTES);
    open = { tiles, mended: createMendedPicture(tiles.pixels), turn: Promise.resolve() };
  },

  /** Lets another worker have the tiles of the open picture; memory is shared, not copied. */
  lendTiles(port: MessagePort): void {
    const { tiles } = opened();
    const lend: TileLender = async (level, column, row) =>
      (await tiles.tile(level, column, row)).planes[0].buffer as SharedArrayBuffer;
    expose(lend, port);
  },

  /** A tile as the screen takes it. */
  async paint(level: number, column: number, row: number, side: Side): Promise<ImageBitmap> {
    const { tiles, mended } = opened();
    const tile = await tiles.tile(level, column, row);
    return sendBitmap(side === 'before' ? tile : mendTile(tile, level, column, row, mended));
  },

  /** A tile of any picture, for a thumbnail. */
  async thumbnail(picture: TiledPicture, level: number): Promise<ImageBitmap> {
    return sendBitmap(await createTileStore(picture, fetchTile, 0).tile(level, 0, 0));
  },

  /** Takes over the mends and fences of a recipe and tells every rectangle that changes. */
  update(recipe: Pick<Recipe, 'mends' | 'fences'>, changed: (rect: Rect) => void): Promise<void> {
    const picture = opened();
    const run = (): Promise<void> =>
      picture.mended.update(recipe, (reads) => picture.tiles.ready(reads), changed);
    picture.turn = picture.turn.then(run, run);
    return picture.turn;
  },

  /** A part of the picture for the proof. */
  crop: async (rect: Rect, side: Side): Promise<ImageBitmap> => sendBitmap(await pixelsOf(rect, side)),

  /** What the mends changed in a part of the picture, `gain` times, around middle grey. */
  async cropDifference(rect: Rect, gain: number): Promise<ImageBitmap> {
    return sendBitmap(difference(await pixelsOf(rect, 'before'), await pixelsOf(rect, 'after'), gain));
  },

  /** The full-size samples of a part of the picture as mended, plane after plane: what a delivery must hold. */
  async samples(rect: Rect): Promise<number[][]> {
    await opened().turn;
    const { planes, stride, width, height } = await pixelsOf(rect, 'after');
    return planes.map((plane) =>
      Array.from({ length: height }, (_, y) => [...plane.subarray(y * stride, y * stride + width)]).flat(),
    );
  },
};

export type TableApi = typeof api;

expose(api);
