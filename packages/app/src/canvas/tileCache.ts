import type { LevelSize, Rect } from '@fennip/core/raster';
import { pyramidLevels, rectsMeet } from '@fennip/core/raster';
import { engine } from '../engine/page/workers.ts';
import type { Follows, LevelPart, Seen, TileKey } from '../engine/paint/tileKey.ts';
import { partOfTile } from '../engine/paint/tileKey.ts';

interface CachedTile {
  bitmap: ImageBitmap | null;
  /** Its pixels changed since the bitmap was painted. */
  isStale: boolean;
  isPainting: boolean;
  /** It will come without being asked for. */
  isExpected: boolean;
  /** How often it came without being asked for. */
  came: number;
}

/** Painted tiles, ready to be drawn; at most this many, a megabyte each. */
const MOST_TILES = 220;
/** What looks different came as a sheet: tiles are asked for once nothing else has for so long, in milliseconds. */
const TILES_AFTER_MS = 600;
/** Tiles asked for at the same time: enough to keep the worker busy, few enough to change one's mind. */
const PAINTED_AT_ONCE = 6;

/** A part of what is in sight that came painted; it lies over the tiles until they are as new. */
export interface Sheet extends LevelPart {
  readonly bitmap: ImageBitmap;
}

/** A part that has been painted, by itself or as a sheet over others. */
export interface ArrivedPart extends LevelPart {
  readonly isSheet?: true;
}

export interface TileCache {
  readonly levels: readonly LevelSize[];
  /** A bitmap if there is one, even an outdated one. */
  get(key: TileKey): ImageBitmap | null;
  /** Parts that lie over the tiles, the newest last. */
  sheets(): Iterable<Sheet>;
  /** Parts that changed, which lie over everything until their tiles come, the newest last. */
  touches(): readonly Sheet[];
  hasSheets(): boolean;
  /**
   * Asks for these, first ones first, and for nothing else any more.
   *
   * @param seen what is in sight, where that could come as one sheet
   */
  want(keys: readonly TileKey[], seen: Seen | null): void;
  /**
   * The pixels in a rectangle of the full-size picture have changed, on one side or another.
   *
   * @param follows how the new ones come: see {@link import('../engine/paint/tileKey.ts').Repainter}
   */
  soil(rect: Rect, follows: Follows): void;
  /** All tiles show something else; until they come again they stay as they are. */
  invalidateAll(): void;
  /** Takes over a tile that came without being asked for; one that another picture's list wanted is thrown away. */
  take(key: TileKey, bitmap: ImageBitmap, list: number): void;
  /** Takes over a part of what is in sight; one of what was in sight before is thrown away. */
  lay(part: LevelPart, bitmap: ImageBitmap, list: number): void;
  /** Takes over a part that changed before the tiles that hold it; one of what was in sight before is thrown away. */
  touchUp(part: LevelPart, bitmap: ImageBitmap, list: number): void;
  clear(): void;
}

const nameOf = ({ side, level, column, row }: TileKey): string => `${side} ${level} ${column} ${row}`;

/** Lists of wanted tiles are counted over all pictures: what was painted for one must never be shown for another. */
let lists = 0;

type Tile = CachedTile & { readonly key: TileKey };

const emptyTile = (key: TileKey): Tile => ({
  ...{ key, bitmap: null, isStale: false, isPainting: false, isExpected: false, came: 0 },
});

/** What the tiles are of. */
export interface TiledSight {
  /** Sides of what is seen, in pixels. */
  readonly width: number;
  readonly height: number;
  /** So many levels can be painted. */
  readonly mostLevels: number;
  /** The rectangle of the upright original that a tile shows. */
  readonly covered: (key: TileKey) => Rect;
}

/** @param arrived called with each part that has been painted; null where all may look different */
export function createTileCache(sight: TiledSight, arrived: (part: ArrivedPart | null) => void): TileCache {
  const tiles = new Map<string, Tile>();
  const sheets = new Map<string, Sheet>();
  let touches: readonly Sheet[] = [];
  /** Runs while sheets stand for the tiles. */
  let resting: ReturnType<typeof setTimeout> | null = null;
  let seenBefore = '';
  let wanted: readonly TileKey[] = [];
  /** The lists of this picture come after this one. */
  const before = lists;
  /** The list that stands: which tiles come without being asked for depends on it. */
  let list = ++lists;
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
    const tile = tiles.get(name) ?? emptyTile(key);
    tiles.set(name, tile);
    const { came } = tile;
    tile.isPainting = true;
    tile.isStale = false;
    painting++;
    try {
      const bitmap = await engine().paint(key);
      // One that came meanwhile without being asked for is at least as new.
      if (isClosed || tile.came > came) bitmap.close();
      else {
        tile.bitmap?.close();
        tile.bitmap = bitmap;
        arrived(partOfTile(key));
      }
    } catch {
      // A tile that cannot be had now is asked for again at the next look.
      tile.isStale = true;
    } finally {
      tile.isPainting = false;
      painting--;
      if (!isClosed) {
        liftSheets();
        paintNext();
      }
    }
  }

  function paintNext(): void {
    for (const key of wanted) {
      if (painting >= PAINTED_AT_ONCE) return;
      const tile = tiles.get(nameOf(key));
      const isNeeded = !tile?.bitmap || (tile.isStale && resting === null);
      if (!tile || (!tile.isPainting && !tile.isExpected && isNeeded)) void paint(key);
    }
  }

  function stopResting(): void {
    if (resting !== null) clearTimeout(resting);
    resting = null;
  }

  function dropTouches(): void {
    for (const { bitmap } of touches) bitmap.close();
    touches = [];
  }

  function dropSheets(): void {
    for (const { bitmap } of sheets.values()) bitmap.close();
    sheets.clear();
    stopResting();
  }

  function isNew(key: TileKey): boolean {
    const tile = tiles.get(nameOf(key));
    return Boolean(tile?.bitmap) && !tile?.isStale && !tile?.isPainting && !tile?.isExpected;
  }

  /** Takes what changed away once the tiles that hold it are as new. */
  function liftTouches(): void {
    if (touches.length === 0) return;
    const waiting = wanted.filter((key) => key.side === 'after' && !isNew(key));
    const isWaiting = ({ level, rect }: Sheet): boolean =>
      waiting.some((key) => key.level === level && rectsMeet(partOfTile(key).rect, rect));
    const gone = touches.filter((touch) => !isWaiting(touch));
    touches = touches.filter(isWaiting);
    for (const { level, rect, bitmap } of gone) {
      bitmap.close();
      arrived({ level, rect });
    }
  }

  /** Takes the sheets away once the tiles under them are as new. */
  function liftSheets(): void {
    liftTouches();
    if (sheets.size === 0 || resting !== null || !wanted.every(isNew)) return;
    dropSheets();
    arrived(null);
  }

  return {
    levels: pyramidLevels(sight.width, sight.height).slice(0, sight.mostLevels),
    get: (key) => tiles.get(nameOf(key))?.bitmap ?? null,
    sheets: () => sheets.values(),
    touches: () => touches,
    hasSheets: () => sheets.size > 0,
    want(keys, seen) {
      const names = keys.map(nameOf).join();
      const isOther = names !== wanted.map(nameOf).join();
      const seenNow = JSON.stringify(seen);
      if (isOther) {
        dropSheets();
        dropTouches();
        list = ++lists;
      }
      if (isOther || seenNow !== seenBefore) void engine().want(keys, list, seen);
      seenBefore = seenNow;
      wanted = keys;
      makeRoom();
      paintNext();
    },
    soil(rect, follows) {
      if (follows === 'sheet') {
        // What was painted under the finish before would lie over it.
        dropTouches();
        stopResting();
        resting = setTimeout(() => {
          resting = null;
          paintNext();
        }, TILES_AFTER_MS);
      } else if (sheets.size > 0) {
        // They know nothing of this change.
        dropSheets();
        arrived(null);
      }
      const coming = follows === list ? new Set(wanted.map(nameOf)) : null;
      for (const [name, tile] of tiles)
        if (rectsMeet(sight.covered(tile.key), rect)) {
          tile.isStale = true;
          tile.isExpected = coming?.has(name) ?? false;
        }
      paintNext();
    },
    invalidateAll() {
      dropSheets();
      dropTouches();
      for (const tile of tiles.values()) Object.assign(tile, { isStale: true, isExpected: false });
      paintNext();
    },
    take(key, bitmap, wantedOn) {
      if (wantedOn <= before) return bitmap.close();
      const name = nameOf(key);
      const tile = tiles.get(name) ?? emptyTile(key);
      tiles.set(name, tile);
      tile.bitmap?.close();
      Object.assign(tile, { bitmap, isStale: false, isExpected: false, came: tile.came + 1 });
      arrived(partOfTile(key));
      liftSheets();
    },
    lay(part, bitmap, wantedOn) {
      if (wantedOn !== list) return bitmap.close();
      const name = JSON.stringify(part);
      sheets.get(name)?.bitmap.close();
      // The newest comes last.
      sheets.delete(name);
      sheets.set(name, { ...part, bitmap });
      arrived({ ...part, isSheet: true });
    },
    touchUp(part, bitmap, wantedOn) {
      if (wantedOn !== list) return bitmap.close();
      touches = [...touches, { ...part, bitmap }];
      arrived(part);
    },
    clear() {
      isClosed = true;
      dropSheets();
      dropTouches();
      for (const name of [...tiles.keys()]) drop(name);
    },
  };
}
