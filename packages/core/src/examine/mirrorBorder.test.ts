import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import { pictureOf } from '../testing/pictures.ts';
import { mirrorBorder } from './mirrorBorder.ts';

const [WIDTH, HEIGHT] = [23, 17];
const picture = pictureOf(WIDTH, HEIGHT, (x, y) => ((7 * x + 13 * y) % 50) / 50, { channels: 2, grain: 0.1 });
const pixels = pixelsOf(picture);

/** A place of the picture for any place on the line it is on, there and back between its borders. */
function there(at: number, last: number): number {
  let place = at;
  while (place < 0 || place > last) place = place < 0 ? -1 - place : 2 * last + 1 - place;
  return place;
}

describe('a window at the border of its picture', () => {
  it('goes on as its mirror image, there and back, and stays as it is inside', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 60 }), (by) => {
        const rect = { left: 0, top: 0, width: WIDTH, height: HEIGHT };
        const { left, top, raster } = mirrorBorder(pixels.window(rect), by);
        expect([left, top, raster.width, raster.height]).toEqual([-by, -by, WIDTH + 2 * by, HEIGHT + 2 * by]);
        raster.planes.forEach((plane, c) => {
          for (let y = 0; y < raster.height; y++)
            for (let x = 0; x < raster.width; x++) {
              const from = there(y - by, HEIGHT - 1) * picture.stride + there(x - by, WIDTH - 1);
              if (plane[y * raster.stride + x] !== picture.planes[c][from])
                throw new Error(`another value at ${x}, ${y}`);
            }
        });
      }),
      { numRuns: 12 },
    );
  });

  it('is carried on only where the picture ends', () => {
    const inside = pixels.window({ left: 3, top: 4, width: 9, height: 8 });
    expect(mirrorBorder(inside, 5)).toBe(inside);
    const corner = mirrorBorder(pixels.window({ left: 14, top: 4, width: 9, height: 13 }), 5);
    expect([corner.left, corner.top, corner.raster.width, corner.raster.height]).toEqual([14, 4, 14, 18]);
  });
});
