import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import { pictureOf } from '../testing/pictures.ts';
import { loadOpenCv } from '../testing/openCv.ts';
import { sampleSource, sourceReads } from './sampleSource.ts';
import type { Shift, Warp } from './source.ts';
import { isConvex, pulledCorners, inverseWarp } from './warpPiece.ts';

const pull = fc.record({ dx: fc.integer({ min: -9, max: 9 }), dy: fc.integer({ min: -9, max: 9 }) });
const warps = fc
  .record({
    width: fc.integer({ min: 30, max: 80 }),
    height: fc.integer({ min: 30, max: 80 }),
    by: fc.tuple(pull, pull, pull, pull),
  })
  .filter((warp) => isConvex(pulledCorners(warp)));
const NOT: Shift = { dx: 0, dy: 0 };

describe('a piece pulled at its corners', () => {
  it('finds each corner back, and keeps straight what is straight', () => {
    fc.assert(
      fc.property(warps, (warp: Warp) => {
        const way = inverseWarp(warp);
        pulledCorners(warp).forEach(([x, y], k) => {
          const [ownX, ownY] = way(x, y) ?? [NaN, NaN];
          expect(Math.abs(Math.abs(ownX) - warp.width / 2)).toBeLessThan(1e-6);
          expect(Math.sign(ownX)).toBe(k === 0 || k === 3 ? -1 : 1);
          expect(Math.abs(Math.abs(ownY) - warp.height / 2)).toBeLessThan(1e-6);
        });
        const [a, b] = [way(-5, -7), way(9, 4)];
        const middle = way(2, -1.5);
        if (!a || !b || !middle) return;
        const cross = (b[0] - a[0]) * (middle[1] - a[1]) - (b[1] - a[1]) * (middle[0] - a[0]);
        expect(Math.abs(cross)).toBeLessThan(1e-6);
      }),
    );
  });

  it('is the projective map of a general library', async () => {
    const { cv } = await loadOpenCv();
    const warp: Warp = {
      width: 60,
      height: 40,
      by: [{ dx: -6, dy: 3 }, { dx: 4, dy: -5 }, { dx: 8, dy: 6 }, NOT],
    };
    const from = cv.matFromArray(4, 1, cv.CV_32FC2, pulledCorners(warp).flat());
    const to = cv.matFromArray(4, 1, cv.CV_32FC2, [-30, -20, 30, -20, 30, 20, -30, 20]);
    const map = cv.getPerspectiveTransform(from, to).data64F as Float64Array;
    const way = inverseWarp(warp);
    for (const [x, y] of [
      [0, 0],
      [-20, 11],
      [17, -9],
    ]) {
      const w = map[6] * x + map[7] * y + map[8];
      const [ownX, ownY] = way(x, y) ?? [NaN, NaN];
      expect(ownX).toBeCloseTo((map[0] * x + map[1] * y + map[2]) / w, 4);
      expect(ownY).toBeCloseTo((map[3] * x + map[4] * y + map[5]) / w, 4);
    }
  });

  it('reads what it says, and the same as an unpulled one where no corner is moved', () => {
    const picture = pictureOf(160, 120, (x, y) => 0.5 + 0.3 * Math.sin(x / 5) * Math.cos(y / 7));
    const pixels = pixelsOf(picture);
    const rect = { left: 30, top: 40, width: 40, height: 30 };
    const still = {
      dx: 50.25,
      dy: -10.5,
      warp: { width: 40, height: 30, by: [NOT, NOT, NOT, NOT] },
    } as const;
    const plain = { dx: 50.25, dy: -10.5 };
    const [a, b] = [still, plain].map((source) => sampleSource(pixels, source, [50, 55], rect).planes[0]);
    a.forEach((value, i) => expect(Math.abs(value - b[i])).toBeLessThan(1e-2));
    const pulled = {
      ...plain,
      warp: { width: 40, height: 30, by: [{ dx: -8, dy: 0 }, NOT, NOT, NOT] },
    } as const;
    const reads = sourceReads(pulled, [50, 55], rect, pixels.shape);
    expect(reads.left).toBeLessThanOrEqual(80);
    expect(sampleSource(pixels, pulled, [50, 55], rect).there.every((there) => there === 1)).toBe(true);
  });

  it('lets nothing be taken through a corner that points inwards', () => {
    const inside: Warp = { width: 40, height: 40, by: [{ dx: 30, dy: 30 }, NOT, NOT, NOT] };
    expect(isConvex(pulledCorners(inside))).toBe(false);
    expect(inverseWarp(inside)(0, 0)).toBeNull();
  });
});
