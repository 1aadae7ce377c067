import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../../../random/mulberry.ts';
import { pixelsOf } from '../../../raster/pixels.ts';
import type { Raster } from '../../../raster/raster.ts';
import { pictureOf } from '../../../testing/pictures.ts';
import { canvasOf } from '../../canvas.ts';
import { applyTreatment } from '../applyTreatment.ts';
import { findShift } from './findShift.ts';
import type { ShiftMend } from './shiftMend.ts';

const [WIDTH, HEIGHT] = [260, 200];
const WHOLE = { left: 0, top: 0, width: WIDTH, height: HEIGHT };

const shiftOf = (keeps: ShiftMend['keeps']): ShiftMend => ({
  ...{ id: 's', method: 'shift', dx: 8, dy: 0, keeps },
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
});

/** A sky that grows lighter towards the horizon, with streaks all along one direction that stand out from it. */
function streaked(angle: number, length: number, depth: number): { seen: Raster; clean: Raster } {
  const uniform = mulberry(11);
  const streaks = Array.from({ length: 40 }, () => [WIDTH * uniform(), HEIGHT * uniform()] as const);
  const sky = (y: number): number => 0.35 + (0.1 * y) / HEIGHT;
  const amount = (x: number, y: number): number =>
    streaks.some(([cx, cy]) => {
      const [ox, oy] = [x - cx, y - cy];
      const along = ox * Math.cos(angle) + oy * Math.sin(angle);
      return Math.abs(along) < length / 2 && Math.abs(oy * Math.cos(angle) - ox * Math.sin(angle)) < 1.2;
    })
      ? depth
      : 0;
  const grain = { grain: 0.006, depth: 16 } as const;
  return {
    seen: pictureOf(WIDTH, HEIGHT, (x, y) => sky(y) + amount(x, y), grain),
    clean: pictureOf(WIDTH, HEIGHT, (_, y) => sky(y), grain),
  };
}

/** How far what a shift lays down lies from the clean picture, on average, in shares of full scale. */
function leftBy(mend: ShiftMend, { seen, clean }: ReturnType<typeof streaked>): number {
  const { rect, values } = applyTreatment(mend, canvasOf(pixelsOf(seen)), WHOLE);
  let sum = 0;
  for (let y = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++)
      sum += Math.abs(
        values[1][y * rect.width + x] - clean.planes[1][(rect.top + y) * clean.stride + rect.left + x],
      );
  return sum / rect.width / rect.height / 65_535;
}

describe('the vector of a picture against itself', () => {
  it('takes what stands out away, lighter or darker, and does better than one along it or a usual one', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0, max: Math.PI, noNaN: true }),
        fc.constantFrom(6, 14),
        fc.constantFrom(-0.2, 0.2),
        (angle, length, depth) => {
          const picture = streaked(angle, length, depth);
          const mend = shiftOf(depth > 0 ? 'darker' : 'lighter');
          const found = findShift(mend, canvasOf(pixelsOf(picture.seen)));
          if (!found) throw new Error('something stands out');
          expect(Math.hypot(found.dx, found.dy)).toBeGreaterThanOrEqual(2);
          const left = leftBy({ ...mend, ...found }, picture);
          const along = { dx: Math.round(3 * Math.cos(angle)), dy: Math.round(3 * Math.sin(angle)) };
          expect(left).toBeLessThan(leftBy({ ...mend, ...along }, picture));
          expect(left).toBeLessThan(1.1 * leftBy(mend, picture));
          // All but nothing of what stood out is left: grain, and a little of the slope of the sky.
          expect(left).toBeLessThan(0.3 * leftBy({ ...mend, share: 1, dx: 0, dy: 0 }, picture) + 0.008);
        },
      ),
      { numRuns: 6 },
    );
  });

  it('is none where nothing stands out', () => {
    const even = pictureOf(WIDTH, HEIGHT, () => 0.5);
    expect(findShift(shiftOf('darker'), canvasOf(pixelsOf(even)))).toBeNull();
  });
});
