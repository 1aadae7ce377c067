import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RasterError } from '../errors.ts';
import { pictureOf } from '../testing/pictures.ts';
import { lumaPlane } from './float.ts';
import { pixelsOf } from './pixels.ts';
import { cloneRaster, copyRaster, createRaster, rasterOver, viewRaster } from './raster.ts';
import type { Rect } from './rect.ts';
import { growRect, intersectRects, isEmpty, rectHolds, rectsMeet, uniteRects } from './rect.ts';
import { narrowWindow, wholeWindow } from './window.ts';

const rect: fc.Arbitrary<Rect> = fc.record({
  left: fc.integer({ min: -30, max: 30 }),
  top: fc.integer({ min: -30, max: 30 }),
  width: fc.integer({ min: 1, max: 30 }),
  height: fc.integer({ min: 1, max: 30 }),
});
const picture = pictureOf(23, 17, (x, y, c) => (x + 3 * y + c) / 100);

describe('rectangles', () => {
  it('meet where both are, and are held by what unites them', () => {
    fc.assert(
      fc.property(rect, rect, (a, b) => {
        const both = intersectRects(a, b);
        expect(isEmpty(both)).toBe(!rectsMeet(a, b));
        if (!isEmpty(both)) expect(rectHolds(a, both) && rectHolds(b, both)).toBe(true);
        expect(rectHolds(uniteRects(a, b), a) && rectHolds(uniteRects(a, b), b)).toBe(true);
        expect(rectHolds(growRect(a, 2), a)).toBe(true);
      }),
    );
  });
});

describe('rasters', () => {
  it('are seen in part without copying', () => {
    const copy = cloneRaster(picture);
    const part = viewRaster(copy, { left: 5, top: 4, width: 6, height: 3 });
    part.planes[1][2 * part.stride + 1] = 200;
    expect(copy.planes[1][6 * 23 + 6]).toBe(200);
    expect(() => viewRaster(copy, { left: 20, top: 0, width: 4, height: 1 })).toThrow(RasterError);
  });

  it('are copied to any place, what falls outside left out', () => {
    fc.assert(
      fc.property(fc.integer({ min: -30, max: 30 }), fc.integer({ min: -30, max: 30 }), (left, top) => {
        const sink = createRaster(20, 20, 3, 8);
        copyRaster(picture, sink, left, top);
        for (let y = 0; y < 20; y++)
          for (let x = 0; x < 20; x++) {
            const [px, py] = [x - left, y - top];
            const isIn = px >= 0 && py >= 0 && px < 23 && py < 17;
            expect(sink.planes[2][y * 20 + x]).toBe(isIn ? picture.planes[2][py * 23 + px] : 0);
          }
      }),
      { numRuns: 40 },
    );
  });

  it('refuse sides that are none and buffers that are too small', () => {
    expect(() => createRaster(0, 5, 3, 8)).toThrow(RasterError);
    expect(() => createRaster(2.5, 5, 3, 8)).toThrow(RasterError);
    expect(() => rasterOver(new ArrayBuffer(10), 4, 4, 1, 8)).toThrow(RasterError);
  });

  it('give grey its own value and colour the weights of BT.709 as luma', () => {
    // Rec. ITU-R BT.709-6, item 3.2: 0.2126, 0.7152, 0.0722.
    const red = pictureOf(2, 2, (_x, _y, c) => (c === 0 ? 1 : 0));
    expect(lumaPlane(red).data[0]).toBeCloseTo(0.2126, 6);
    expect(lumaPlane(pictureOf(2, 2, () => 0.4, { channels: 2, depth: 16 })).data[3]).toBeCloseTo(0.4, 4);
  });
});

describe('windows', () => {
  it('know where they lie, and clip what is asked for to the picture', () => {
    fc.assert(
      fc.property(rect, (asked) => {
        if (!rectsMeet(asked, { left: 0, top: 0, width: 23, height: 17 })) {
          expect(() => pixelsOf(picture).window(asked)).toThrow(RasterError);
          return;
        }
        const window = pixelsOf(picture).window(asked);
        const { raster, left, top } = window;
        for (let y = 0; y < raster.height; y++)
          for (let x = 0; x < raster.width; x++)
            expect(raster.planes[0][y * raster.stride + x]).toBe(
              picture.planes[0][(top + y) * 23 + left + x],
            );
      }),
    );
  });

  it('say so when something is not at hand', () => {
    const small = narrowWindow(wholeWindow(picture), { left: 4, top: 4, width: 5, height: 5 });
    expect(() => narrowWindow(small, { left: 0, top: 0, width: 6, height: 6 })).toThrow(RasterError);
  });
});
