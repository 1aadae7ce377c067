import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { TILE_SIZE } from '@fennip/core/raster';
import type { Rect } from '@fennip/core/raster';
import { partOfTile } from '../engine/paint/tileKey.ts';
import type { Scene } from './drawPicture.ts';
import { drawPicture } from './drawPicture.ts';
import { drawShare } from './drawShare.ts';
import type { Comparing } from './drawSides.ts';
import { TABLE, cacheOf, sceneAt } from './testScenes.ts';
import type { Sheet, TileCache } from './tileCache.ts';

const ALONE: Comparing = {
  ...{ comparison: 'none', splitAt: 0.5, isOriginalHeld: false, isBlinkedBefore: false },
};

const bitmapOf = ({ width, height }: Rect) => ({ width, height }) as ImageBitmap;

/** A cache that has every tile that is asked for, with parts over them that changed. */
const cacheWith = (touches: readonly Sheet[] = []): TileCache =>
  cacheOf({ get: (key) => bitmapOf(partOfTile(key).rect), touches: () => touches });

/** A canvas that only tells what was drawn on it: where images were laid, and within which clip. */
function canvas() {
  const images: { bitmap: unknown; to: readonly number[] }[] = [];
  const clips: readonly number[][] = [];
  const context = {
    save: () => undefined,
    restore: () => undefined,
    beginPath: () => undefined,
    clip: () => undefined,
    translate: () => undefined,
    fillRect: () => undefined,
    rect: (...sides: number[]) => void (clips as number[][]).push(sides),
    drawImage: (bitmap: unknown, ...places: number[]) => void images.push({ bitmap, to: places.slice(-4) }),
  };
  return { images, clips, context: context as unknown as CanvasRenderingContext2D };
}

describe('a share of the picture', () => {
  const cache = cacheWith();
  const draw = (scene: Scene, share: Parameters<typeof drawShare>[4]) => {
    const drawn = canvas();
    return { ...drawn, how: drawShare(drawn.context, scene, cache, ALONE, share, '#767676') };
  };

  it('is drawn quickly while it moves, and not at all where well would take too long', () => {
    expect(draw(sceneAt(3000, 2000, 0.4, true), 'all').how).toBe('quickly');
    const resting = draw(sceneAt(3000, 2000, 0.4), 'all');
    expect(resting.how).toBe('too much');
    expect(resting.images).toEqual([]);
  });

  it('is drawn well in bands that cover the table without a gap', () => {
    const bands = [0, 1, 2, 3].map((k) => draw(sceneAt(3000, 2000, 0.4), { from: k / 4, to: (k + 1) / 4 }));
    expect(bands.map(({ how }) => how)).toEqual(['well', 'well', 'well', 'well']);
    let reached = 0;
    for (const { clips } of bands) {
      const [left, top, width, height] = clips[0];
      expect([left, top, width]).toEqual([0, reached, TABLE.width]);
      reached += height;
    }
    expect(reached).toBe(TABLE.height);
  });

  it('is drawn well at once where pixels are drawn as they are', () => {
    expect(draw(sceneAt(3000, 2000, 2, true), 'all').how).toBe('well');
    expect(draw(sceneAt(3000, 2000, 2), 'all').how).toBe('well');
  });
});

describe('a part that changed', () => {
  it('lies in the grid of its tiles, wherever it is and however large it is seen', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 700 }),
        fc.integer({ min: 0, max: 700 }),
        fc.integer({ min: 1, max: 200 }),
        fc.double({ min: 1, max: 32, noNaN: true }),
        (left, top, side, scale) => {
          const rect = { left, top, width: side, height: side };
          const touch: Sheet = { level: 0, rect, bitmap: bitmapOf(rect) };
          const { images, context } = canvas();
          drawPicture(context, sceneAt(left, top, scale), cacheWith([touch]), 'after');
          const parts = images.filter(({ bitmap }) => bitmap === touch.bitmap);
          const tiles = images.filter(({ bitmap }) => bitmap !== touch.bitmap);
          expect(parts.length).toBeGreaterThan(0);
          // Each begins at a pixel of a tile and is as many of its pixels wide.
          for (const { to } of parts) {
            const isHeld = tiles.some(({ to: tile }) => {
              const [pixelX, pixelY] = [tile[2] / TILE_SIZE, tile[3] / TILE_SIZE];
              const steps = [
                (to[0] - tile[0]) / pixelX,
                (to[1] - tile[1]) / pixelY,
                to[2] / pixelX,
                to[3] / pixelY,
              ];
              return steps.every((step) => step > -1e-6 && Math.abs(step - Math.round(step)) < 1e-6);
            });
            if (tiles.length > 0 && to[0] < TABLE.width && to[1] < TABLE.height && to[0] > 0 && to[1] > 0)
              expect(isHeld).toBe(true);
          }
        },
      ),
    );
  });
});
