import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { cloneRaster } from './raster.ts';
import { wholeWindow } from './window.ts';
import { pictureOf } from '../testing/pictures.ts';
import { layPatch } from './patch.ts';

const picture = pictureOf(23, 17, (x, y) => 0.2 + 0.02 * x + 0.01 * y);

describe('a patch', () => {
  it('takes its share of each value to the nearest code, and nothing where it covers nothing', () => {
    const place = fc.integer({ min: -5, max: 20 });
    fc.assert(
      fc.property(place, place, fc.nat(), (left, top, seed) => {
        const [width, height] = [7, 6];
        const cover = Float32Array.from({ length: 42 }, (_, i) => ((i * 7 + seed) % 5) / 4);
        const values = cover.map((share, i) => (share === 0 ? NaN : ((i * 37 + seed) % 320) - 30));
        const raster = cloneRaster(picture);
        const patch = {
          rect: { left, top, width, height },
          values: [values, values, values],
          coverage: cover,
        };
        layPatch(patch, wholeWindow(raster));
        raster.planes.forEach((plane, c) =>
          plane.forEach((value, at) => {
            const [x, y] = [(at % 23) - left, Math.floor(at / 23) - top];
            const old = picture.planes[c][at];
            const i = x >= 0 && y >= 0 && x < width && y < height ? y * width + x : -1;
            const mixed = i < 0 || cover[i] === 0 ? old : old + cover[i] * (values[i] - old);
            expect(value).toBe(Math.min(255, Math.max(0, Math.round(mixed))));
          }),
        );
      }),
    );
  });
});
