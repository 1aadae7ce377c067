import type { LevelSize, Rect } from '@fennip/core';
import { TILE_SIZE, pyramidLevels, rectsMeet } from '@fennip/core';
import { engine } from '../engine/engine.ts';
import type { Side } from '../engine/worker.ts';

interface CachedTile {
  bitmap: ImageBitmap | null;
  /** Its pixels changed since the bitmap was painted. */
  isStale: boolean;
  isPainting: boolean;
}

/** Painted tiles, ready to be drawn; at most this many, a megabyte each. */
const MOST_TILES = 220;
/** Tiles asked for at the same time: enough to keep the worker busy, few enough to change one's mind. */
const PAINTED_AT_ONCE = 6;

export interface TileKey {
  readonly side: Side;
  readonly level: number;
  readonly column: number;
  readonly row: number;
}

export interface TileCache {
  readonly levels: readonly LevelSize[];
  /** A bitmap if there is one, even an outdated one. */
  get(key: TileKey): ImageBitmap | null;
  /** Asks for these, first ones first, and for nothing else any more. */
  want(keys: readonly TileKey[]): void;
  /** The pixels in a rectangle of the full-size picture have changed, on one side or another. */
  soil(rect: Rect): void;
  clear(): void;
}

const nameOf = ({ side, level, column, row }: TileKey): string => `${side} ${level} ${column} ${row}`;

/** The rectangle of the full-size picture that a tile shows. */
function coveredRect({ level, column, row }: TileKey): Rect {
  const side = TILE_SIZE * 2 ** level;
  return { left: column * side, top: row * side, width: side, height: side };
}

/** @param arrived called whenever a tile has been painted */
export function createTileCache(picture: { width: number; height: number }, arrived: () => void): TileCache {
  const tiles = new Map<string, CachedTile & { key: TileKey }>();
  let wanted: readonly TileKey[] = [];
  let painting = 0;
  let isClosed = false;

  function drop(name: string): void {
    tiles.get(name)?.bitmap?.close();
    tiles.delete(name);
  }

  function makeRoom(): void {
    const keep = new Set(wanted.map(nameOf));
    for (const [name, tile] of tiles) {
      if (tiles.size <= MOST_TILES) return;
      if (!keep.has(name) && !tile.isPainting) drop(name);
    }
  }

  async function paint(key: TileKey): Promise<void> {
    const name = nameOf(key);
    const tile = tiles.get(name) ?? { key, bitmap: null, isStale: false, isPainting: false };
    tiles.set(name, tile);
    tile.isPainting = true;
    tile.isStale = false;
    painting++;
    try {
      const bitmap = await engine().paint(key.level, key.column, key.row, key.side);
      if (isClosed) bitmap.close();
      else {
        tile.bitmap?.close();
        tile.bitmap = bitmap;
        arrived();
      }
    } catch {
      // A tile that cannot be had now is asked for again at the next look.
      tile.isStale = true;
    } finally {
      tile.isPainting = false;
      painting--;
      if (!isClosed) paintNext();
    }
  }

  function paintNext(): void {
    for (const key of wanted) {
      if (painting >= PAINTED_AT_ONCE) return;
      const tile = tiles.get(nameOf(key));
      if (!tile || (!tile.isPainting && (tile.isStale || !tile.bitmap))) void paint(key);
    }
  }

  return {
    levels: pyramidLevels(picture.width, picture.height),
    get: (key) => tiles.get(nameOf(key))?.bitmap ?? null,
    want(keys) {
      wanted = keys;
      makeRoom();
      paintNext();
    },
    soil(rect) {
      for (const tile of tiles.values()) if (rectsMeet(coveredRect(tile.key), rect)) tile.isStale = true;
      paintNext();
    },
    clear() {
      isClosed = true;
      for (const name of [...tiles.keys()]) drop(name);
    },
  };
}
