import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SiftMend, SoftenMend, Treatment } from '@fennip/core/mend';
import type { Raster, Rect } from '@fennip/core/raster';
import type { TreatTask } from '@fennip/core/recipe';
import { createRaster, growRect, intersectRects, pixelsOf, viewRaster } from '@fennip/core/raster';
import { createMendedPicture, treatWindow } from '@fennip/core/recipe';
import { mendPart, reachOnLevel } from './paintTile.ts';
import { treatedAnew } from './treatedAnew.ts';

const [WIDTH, HEIGHT] = [640, 600];
const WHOLE: Rect = { left: 0, top: 0, width: WIDTH, height: HEIGHT };

/** Grain with bright specks in it, the same each time. */
function specks(): Raster {
  const raster = createRaster(WIDTH, HEIGHT, 3, 8);
  raster.planes.forEach((plane, c) => {
    for (let y = 0; y < HEIGHT; y++)
      for (let x = 0; x < WIDTH; x++) {
        const grain = (Math.imul(x + 1, 73856093) ^ Math.imul(y + 1, 19349663) ^ (c * 83492791)) & 15;
        plane[y * raster.stride + x] = 60 + grain + (x % 61 < 3 && y % 47 < 3 ? 120 : 0);
      }
  });
  return raster;
}

const BASE = {
  target: {
    shape: 'outline',
    points: [
      [0, 0],
      [WIDTH, 0],
      [WIDTH, HEIGHT],
      [0, HEIGHT],
    ],
  },
  ...{ margin: 0, edge: 0, share: 1, on: true },
} as const;
const SIFT: SiftMend = {
  ...{ ...BASE, id: 'sift', method: 'sift', radius: 6, threshold: 3, polarity: 'bright', detail: 20 },
  noise: new Array<number>(16).fill(0.02),
};
const SOFTEN: SoftenMend = { ...BASE, id: 'soften', method: 'soften', sigma: 3, along: null };

const workshop = {
  ready: () => Promise.resolve(),
  treat: (task: TreatTask) => Promise.resolve(treatWindow(task)),
};
const picture = specks();

async function treated(mends: readonly Treatment[]) {
  const mended = createMendedPicture(pixelsOf(picture));
  await mended.update({ mends }, workshop.ready, () => undefined);
  return mended;
}

const samplesOf = ({ planes, width, height, stride }: Raster): number[] =>
  planes.flatMap((plane) =>
    Array.from({ length: width * height }, (_, i) => plane[Math.floor(i / width) * stride + (i % width)]),
  );

describe('a treatment worked out only where it is seen', () => {
  const parts = fc
    .record({
      left: fc.integer({ min: 0, max: WIDTH - 40 }),
      top: fc.integer({ min: 0, max: HEIGHT - 40 }),
      width: fc.integer({ min: 20, max: 120 }),
      height: fc.integer({ min: 20, max: 120 }),
    })
    .map((rect) => intersectRects(rect, WHOLE));

  it.each([
    ['one', [SIFT]],
    ['one over another', [SIFT, SOFTEN]],
  ])('is the one that is delivered: %s', async (_, mends) => {
    const delivered = (await treated(mends)).pixels.window(WHOLE).raster;
    await fc.assert(
      fc.asyncProperty(parts, async (rect) => {
        const mended = await treated(mends);
        const around = reachOnLevel(rect, 0, mended, true);
        expect(reachOnLevel(rect, 0, mended, false)).toBe(0);
        const wide = intersectRects(growRect(rect, around), WHOLE);
        const seen = await mendPart(viewRaster(picture, wide), { level: 0, ...wide }, mended, {
          ...workshop,
          isAsSeen: true,
        });
        const inside = { ...rect, left: rect.left - wide.left, top: rect.top - wide.top };
        expect(samplesOf(viewRaster(seen, inside))).toEqual(samplesOf(viewRaster(delivered, rect)));
        // Nothing of it is kept as a piece.
        expect(mended.isPrepared(rect)).toBe(false);
      }),
      { numRuns: 8 },
    );
  });
});

describe('what treatments make look different', () => {
  const { shape } = pixelsOf(picture);
  const heal = { ...BASE, id: 'heal', method: 'heal', target: { shape: 'disc', x: 9, y: 9, r: 4 } } as never;

  it('is told where one was added, changed or taken away', () => {
    expect(treatedAnew([SIFT], [SIFT], shape)).toEqual([]);
    expect(treatedAnew([SIFT], [{ ...SIFT }], shape)).toEqual([]);
    expect(treatedAnew([heal], [heal, SIFT], shape)).toEqual([WHOLE]);
    expect(treatedAnew([heal, SIFT], [heal], shape)).toEqual([WHOLE]);
    expect(treatedAnew([SIFT, SOFTEN], [{ ...SIFT, threshold: 4 }, SOFTEN], shape)).toEqual([WHOLE, WHOLE]);
  });

  it('is not told where anything else differs', () => {
    expect(treatedAnew([SIFT], [SIFT, heal], shape)).toBeNull();
    expect(treatedAnew([SIFT, SOFTEN], [SOFTEN, SIFT], shape)).toBeNull();
  });
});
