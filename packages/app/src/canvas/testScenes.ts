import { pyramidLevels } from '@fennip/core/raster';
import type { Scene } from './drawPicture.ts';
import type { TileCache } from './tileCache.ts';

/** A table and a picture for tests. */
export const TABLE = { width: 980, height: 540 };
export const PICTURE = { width: 6000, height: 4000 };

/** A cache with nothing in it, but for what is said. */
export const cacheOf = (more: Partial<TileCache>): TileCache => ({
  levels: pyramidLevels(PICTURE.width, PICTURE.height),
  get: () => null,
  sheets: () => [],
  hasSheets: () => false,
  touches: () => [],
  want: () => undefined,
  soil: () => undefined,
  invalidateAll: () => undefined,
  take: () => undefined,
  lay: () => undefined,
  touchUp: () => undefined,
  clear: () => undefined,
  ...more,
});

export const sceneAt = (x: number, y: number, scale: number, isMoving = false): Scene => ({
  ...{ view: { x, y, scale }, table: TABLE, picture: PICTURE },
  ...{ pixelRatio: 1, isMoving, finestLevel: 0 },
});
