import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TILE_SIZE, rectHolds } from '@fennip/core/raster';
import { partOfTile } from '../engine/paint/tileKey.ts';
import { partInSight, sceneLevel, screenOf, tilesInSight } from './drawPicture.ts';
import { PICTURE, TABLE, cacheOf, sceneAt } from './testScenes.ts';
import type { TileCache } from './tileCache.ts';
import { screenToSeen } from './viewport.ts';

/** A cache as far as it is asked what is there: all tiles of some levels. */
const cacheWith = (...there: number[]): TileCache =>
  cacheOf({ get: ({ level }) => (there.includes(level) ? ({} as ImageBitmap) : null) });

const scenes = fc
  .record({
    x: fc.double({ min: 0, max: PICTURE.width, noNaN: true }),
    y: fc.double({ min: 0, max: PICTURE.height, noNaN: true }),
    scale: fc.double({ min: 0.1, max: 32, noNaN: true }),
  })
  .map(({ x, y, scale }) => sceneAt(x, y, scale));

describe('what is in sight', () => {
  it('is under one of the tiles that are asked for, wherever the view is, and each is asked for once', () => {
    fc.assert(
      fc.property(scenes, fc.double({ min: 0, max: 1, noNaN: true }), (scene, along) => {
        const cache = cacheWith();
        const level = sceneLevel(scene, cache);
        const tiles = tilesInSight(scene, cache, level, 'after');
        expect(new Set(tiles.map(({ column, row }) => `${column} ${row}`)).size).toBe(tiles.length);
        const [x, y] = screenToSeen(scene.view, TABLE, along * TABLE.width, (1 - along) * TABLE.height);
        if (x < 0 || y < 0 || x >= PICTURE.width || y >= PICTURE.height) return;
        const place = { left: Math.floor(x / 2 ** level), top: Math.floor(y / 2 ** level) };
        expect(tiles.some((key) => rectHolds(partOfTile(key).rect, { ...place, width: 1, height: 1 }))).toBe(
          true,
        );
      }),
    );
  });

  it('comes from the middle outwards', () => {
    const scene = sceneAt(3000, 2000, 1);
    const [first, ...others] = tilesInSight(scene, cacheWith(), 0, 'after');
    expect(first).toMatchObject({
      column: Math.floor(3000 / TILE_SIZE),
      row: Math.floor(2000 / TILE_SIZE),
    });
    expect(others.length).toBeGreaterThan(2);
  });

  it('as one part holds the whole screen, on a level that is hardly enlarged', () => {
    fc.assert(
      fc.property(scenes, (scene) => {
        const cache = cacheWith();
        const { level, rect } = partInSight(scene, cache);
        const unit = 2 ** level;
        const [left, top] = screenToSeen(scene.view, TABLE, 0, 0);
        const [right, bottom] = screenToSeen(scene.view, TABLE, TABLE.width, TABLE.height);
        expect(rect.left * unit).toBeLessThanOrEqual(Math.max(0, left));
        expect(rect.top * unit).toBeLessThanOrEqual(Math.max(0, top));
        expect((rect.left + rect.width) * unit).toBeGreaterThanOrEqual(Math.min(PICTURE.width, right));
        expect((rect.top + rect.height) * unit).toBeGreaterThanOrEqual(Math.min(PICTURE.height, bottom));
        if (level > 0) expect(scene.view.scale * unit).toBeLessThanOrEqual(1.42);
      }),
    );
  });
});

describe('what is drawn anew when a part comes', () => {
  const scene = sceneAt(3000, 2000, 0.5);
  /** The tile of a level in the middle of the screen. */
  const middle = (level: number) => {
    const span = TILE_SIZE * 2 ** level;
    return partOfTile({
      side: 'after',
      level,
      column: Math.floor(3000 / span),
      row: Math.floor(2000 / span),
    });
  };

  it('is the part of the screen where it lies', () => {
    const cache = cacheWith();
    const level = sceneLevel(scene, cache);
    const tile = middle(level);
    const screen = screenOf(scene, cache, [tile], ['after']);
    if (screen === 'nothing') throw new Error('the tile is in sight');
    const [x, y] = screenToSeen(scene.view, TABLE, screen.left, screen.top);
    const [left, top] = screenToSeen(scene.view, TABLE, 0, 0);
    expect(Math.abs(x - Math.max(tile.rect.left * 2 ** level, left))).toBeLessThan(2);
    expect(Math.abs(y - Math.max(tile.rect.top * 2 ** level, top))).toBeLessThan(2);
  });

  it('is nothing where finer tiles cover it, or where it is out of sight', () => {
    const level = sceneLevel(scene, cacheWith());
    const coarse = middle(level + 1);
    expect(screenOf(scene, cacheWith(level), [coarse], ['after'])).toBe('nothing');
    expect(screenOf(scene, cacheWith(), [coarse], ['after'])).not.toBe('nothing');
    expect(screenOf(sceneAt(5800, 3900, 1), cacheWith(), [middle(0)], ['after'])).toBe('nothing');
  });
});
