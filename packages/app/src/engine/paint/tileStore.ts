import type { Depth, Pixels, PictureShape, Raster, Rect } from '@fennip/core/raster';
import {
  TILE_SIZE,
  bytesPerSample,
  copyRaster,
  createRaster,
  intersectRects,
  pyramidLevels,
  rasterOver,
} from '@fennip/core/raster';

/** What of a picture is needed to fetch its tiles. */
export interface TiledPicture extends PictureShape {
  readonly pyramid: string;
}

/** The tiles of one picture, fetched when asked for and kept as long as there is room. */
export interface TileStore {
  readonly picture: TiledPicture;
  tile(level: number, column: number, row: number): Promise<Raster>;
  /** A rectangle of a level, put together from its tiles. */
  part(level: number, rect: Rect): Promise<Raster>;
  /** Fetches all full-size tiles that meet the rectangles and keeps them until `pixels` has been read. */
  ready(rects: readonly Rect[]): Promise<void>;
  /** The picture's own pixels, from tiles that are there. */
  readonly pixels: Pixels;
}

/** Gives the samples of one tile, from the server or from another worker that has them. */
export type TileSource = (
  picture: TiledPicture,
  level: number,
  column: number,
  row: number,
) => Promise<SharedArrayBuffer>;

function tileOver(
  buffer: SharedArrayBuffer,
  picture: TiledPicture,
  level: number,
  column: number,
  row: number,
): Raster {
  const size = pyramidLevels(picture.width, picture.height)[level];
  const width = Math.min(TILE_SIZE, size.width - column * TILE_SIZE);
  const height = Math.min(TILE_SIZE, size.height - row * TILE_SIZE);
  return rasterOver(buffer, width, height, picture.channels, picture.depth);
}

const tileBytes = (raster: Raster, depth: Depth): number =>
  raster.width * raster.height * raster.planes.length * bytesPerSample(depth);

/** @param mostBytes tiles are kept up to this size; the ones that were used last stay */
export function createTileStore(picture: TiledPicture, source: TileSource, mostBytes: number): TileStore {
  const tiles = new Map<string, Promise<Raster>>();
  const loaded = new Map<string, Raster>();
  let bytes = 0;

  function forgetOldest(): void {
    for (const [key, raster] of loaded) {
      if (bytes <= mostBytes) return;
      loaded.delete(key);
      tiles.delete(key);
      bytes -= tileBytes(raster, picture.depth);
    }
  }

  function tile(level: number, column: number, row: number): Promise<Raster> {
    const key = `${level}/${column}/${row}`;
    const known = tiles.get(key);
    if (known) {
      const raster = loaded.get(key);
      if (raster) {
        // The most recently used stand last.
        loaded.delete(key);
        loaded.set(key, raster);
      }
      return known;
    }
    const fetched = source(picture, level, column, row).then((buffer) =>
      tileOver(buffer, picture, level, column, row),
    );
    tiles.set(key, fetched);
    fetched.then(
      (raster) => {
        loaded.set(key, raster);
        bytes += tileBytes(raster, picture.depth);
      },
      () => tiles.delete(key),
    );
    return fetched;
  }

  function keysOver(rect: Rect): { column: number; row: number }[] {
    const clipped = intersectRects(rect, { left: 0, top: 0, width: picture.width, height: picture.height });
    if (clipped.width === 0 || clipped.height === 0) return [];
    const keys: { column: number; row: number }[] = [];
    for (let row = Math.floor(clipped.top / TILE_SIZE); row * TILE_SIZE < clipped.top + clipped.height; row++)
      for (
        let column = Math.floor(clipped.left / TILE_SIZE);
        column * TILE_SIZE < clipped.left + clipped.width;
        column++
      )
        keys.push({ column, row });
    return keys;
  }

  async function ready(rects: readonly Rect[]): Promise<void> {
    forgetOldest();
    await Promise.all(rects.flatMap(keysOver).map(({ column, row }) => tile(0, column, row)));
  }

  async function part(level: number, rect: Rect): Promise<Raster> {
    const whole = createRaster(rect.width, rect.height, picture.channels, picture.depth);
    const lastColumn = Math.floor((rect.left + rect.width - 1) / TILE_SIZE);
    const lastRow = Math.floor((rect.top + rect.height - 1) / TILE_SIZE);
    for (let row = Math.floor(rect.top / TILE_SIZE); row <= lastRow; row++)
      for (let column = Math.floor(rect.left / TILE_SIZE); column <= lastColumn; column++) {
        const source = await tile(level, column, row);
        copyRaster(source, whole, column * TILE_SIZE - rect.left, row * TILE_SIZE - rect.top);
      }
    return whole;
  }

  const pixels: Pixels = {
    shape: picture,
    window: (asked) => {
      const rect = intersectRects(asked, { left: 0, top: 0, width: picture.width, height: picture.height });
      const raster = createRaster(rect.width, rect.height, picture.channels, picture.depth);
      for (const { column, row } of keysOver(rect)) {
        const source = loaded.get(`0/${column}/${row}`);
        if (!source) throw new Error(`tile 0/${column}/${row} is not there`);
        copyRaster(source, raster, column * TILE_SIZE - rect.left, row * TILE_SIZE - rect.top);
      }
      return { left: rect.left, top: rect.top, raster, picture };
    },
  };

  return { picture, tile, part, ready, pixels };
}
