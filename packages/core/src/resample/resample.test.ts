import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster } from '../raster/raster.ts';
import { halveRaster } from '../raster/pyramid.ts';
import { pictureOf } from '../testing/pictures.ts';
import { lanczos, lanczosKernel, lanczosShift } from './lanczos.ts';
import { resizeRaster } from './resize.ts';

describe('resampling', () => {
  it('keeps an even tone even, larger or smaller, at 8 and 16 bit', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 40 }),
        fc.integer({ min: 1, max: 40 }),
        fc.constantFrom(8 as const, 16 as const),
        fc.integer({ min: 0, max: 255 }),
        (width, height, depth, value) => {
          const even = createRaster(17, 13, 1, depth);
          even.planes[0].fill(value);
          const out = resizeRaster(even, width, height);
          expect(new Set(out.planes[0])).toEqual(new Set([value]));
          expect(out.depth).toBe(depth);
        },
      ),
    );
  });

  it('halves as the pyramid does', () => {
    const picture = pictureOf(40, 28, (x, y) => 0.5 + 0.4 * Math.sin(x * 1.3) * Math.cos(y * 0.9));
    const [a, b] = [resizeRaster(picture, 20, 14), halveRaster(picture)];
    a.planes.forEach((plane, c) =>
      plane.forEach((value, i) => expect(Math.abs(value - b.planes[c][i])).toBeLessThanOrEqual(1)),
    );
  });

  it('leaves a picture of the same sides as it is', () => {
    const picture = pictureOf(19, 23, (x, y) => ((x * 7 + y * 13) % 17) / 17);
    expect(resizeRaster(picture, 19, 23).planes).toEqual(picture.planes);
  });

  it('draws a smooth wave where it enlarges', () => {
    const wave = (x: number): number => 0.5 + 0.4 * Math.sin(x / 3);
    const out = resizeRaster(
      pictureOf(40, 4, (x) => wave(x), { depth: 16 }),
      160,
      4,
    );
    for (let x = 24; x < 136; x++)
      expect(Math.abs(out.planes[0][160 + x] / 65535 - wave((x + 0.5) / 4))).toBeLessThan(0.006);
  });

  it('reads samples exactly where they lie', () => {
    expect(lanczosKernel(0)).toBe(1);
    for (const k of [1, 2, 3]) expect(lanczosKernel(k)).toBeCloseTo(0, 12);
  });

  it('reads a shifted rectangle as it reads each of its places, also beyond the border', () => {
    const picture = pictureOf(23, 17, (x, y) => 0.5 + 0.4 * Math.sin(x * 1.3 + y));
    const place = fc.double({ min: -6, max: 26, noNaN: true });
    const count = fc.integer({ min: 1, max: 9 });
    fc.assert(
      fc.property(place, place, count, count, (x, y, columns, rows) => {
        const shifted = lanczosShift(picture, picture.planes[0], { x, y, columns, rows });
        const onto = [new Float32Array(1)];
        for (let j = 0; j < rows; j++)
          for (let i = 0; i < columns; i++) {
            lanczos(picture, [picture.planes[0]], x + i, y + j, 1, onto, 0);
            expect(shifted[j * columns + i]).toBeCloseTo(onto[0][0], 3);
          }
      }),
    );
  });
});
