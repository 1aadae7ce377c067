import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../../random/mulberry.ts';
import { createRaster, viewRaster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import type { LumaPlane } from './lumaLevels.ts';
import { LUMA_STEPS, halveLuma, lumaAt, lumaOf, smoothLuma } from './lumaLevels.ts';

const sizes = fc.record({
  width: fc.integer({ min: 1, max: 37 }),
  height: fc.integer({ min: 1, max: 11 }),
  seed: fc.integer({ min: 1, max: 1e6 }),
});

function noise(width: number, height: number, seed: number): LumaPlane {
  const uniform = mulberry(seed);
  return { width, height, data: Uint16Array.from({ length: width * height }, () => 18_000 * uniform()) };
}

/** The sample at a place, or the nearest one beyond the border. */
const at = ({ width, height, data }: LumaPlane, x: number, y: number): number =>
  data[Math.min(height - 1, Math.max(0, y)) * width + Math.min(width - 1, Math.max(0, x))];

function eachPlace({ width, height }: LumaPlane, look: (x: number, y: number, i: number) => void): void {
  for (let y = 0, i = 0; y < height; y++) for (let x = 0; x < width; x++, i++) look(x, y, i);
}

describe('luma, eight samples at a time', () => {
  it('is blurred as the binomial of three asks for, at every width', () => {
    fc.assert(
      fc.property(sizes, ({ width, height, seed }) => {
        const plane = noise(width, height, seed);
        const { data } = smoothLuma(plane);
        eachPlace(plane, (x, y, i) => {
          let sum = 0;
          for (const [dy, wy] of [-1, 0, 1].map((d) => [d, 2 - Math.abs(d)]))
            for (const [dx, wx] of [-1, 0, 1].map((d) => [d, 2 - Math.abs(d)]))
              sum += wx * wy * at(plane, x + dx, y + dy);
          expect(data[i]).toBe((sum + 8) >> 4);
        });
      }),
    );
  });

  it('is halved by the mean of four, an odd side counting its last row or column twice', () => {
    fc.assert(
      fc.property(sizes, ({ width, height, seed }) => {
        const plane = noise(width, height, seed);
        const half = halveLuma(plane);
        expect([half.width, half.height]).toEqual([Math.ceil(width / 2), Math.ceil(height / 2)]);
        eachPlace(half, (x, y, i) => {
          const sum =
            at(plane, 2 * x, 2 * y) +
            at(plane, 2 * x + 1, 2 * y) +
            at(plane, 2 * x, 2 * y + 1) +
            at(plane, 2 * x + 1, 2 * y + 1);
          expect(half.data[i]).toBe((sum + 2) >> 2);
        });
      }),
    );
  });

  it('is the logarithm of the luma of ITU-R BT.709, of 8 bit and 16, of a part of a wider raster too', () => {
    for (const depth of [8, 16] as const) {
      const top = 2 ** depth - 1;
      const wide = createRaster(23, 9, 3, depth);
      const uniform = mulberry(4);
      for (const plane of wide.planes) plane.forEach((_, i) => (plane[i] = Math.round(top * uniform())));
      const part = viewRaster(wide, { left: 3, top: 2, width: 17, height: 5 });
      const plane = lumaOf(part);
      eachPlace(plane, (x, y, i) => {
        const [red, green, blue] = part.planes.map((values) => values[y * part.stride + x] / top);
        const luma = 0.2126 * red + 0.7152 * green + 0.0722 * blue;
        // Weights in 256ths, and luma in steps of a sixteen thousandth.
        expect(Math.abs(plane.data[i] / LUMA_STEPS - Math.log(1 + luma / 0.012))).toBeLessThan(0.02);
      });
    }
  });

  it('changes by the same for the same share of light, on bright ground and on dark', () => {
    const [half, whole, quarter] = [0.4, 0.8, 0.2].map(
      (tone) => lumaOf(pictureOf(8, 8, () => tone, { grain: 0, depth: 16 })).data[20],
    );
    expect((whole - half) / LUMA_STEPS).toBeCloseTo(Math.LN2, 1);
    expect((half - quarter) / LUMA_STEPS).toBeCloseTo(Math.LN2, 1);
    expect(lumaAt(half)).toBeCloseTo(0.4, 2);
  });

  it('of grey is that of three channels alike', () => {
    const grey = createRaster(19, 7, 1, 8);
    grey.planes[0].forEach((_, i) => (grey.planes[0][i] = (7 * i) % 256));
    const colour = createRaster(19, 7, 3, 8);
    for (const plane of colour.planes) plane.set(grey.planes[0]);
    expect(lumaOf(grey)).toEqual(lumaOf(colour));
  });
});
