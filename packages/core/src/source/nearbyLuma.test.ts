import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { lumaPlane } from '../raster/float.ts';
import { pictureOf } from '../testing/pictures.ts';
import { correlationNearby, nearbyLuma, readNearby, ringValues } from './nearbyLuma.ts';

const [WIDTH, HEIGHT] = [64, 48];
/** Waves of different lengths, so that every place looks different. */
const RASTER = pictureOf(
  WIDTH,
  HEIGHT,
  (x, y) => 0.5 + 0.2 * Math.sin(x / 3 + y / 7) + 0.15 * Math.cos(y / 2.3),
);
const PIXELS = pixelsOf(RASTER);
const WHOLE = lumaPlane(RASTER);
const RECT: Rect = { left: 20, top: 16, width: 12, height: 9 };

const shift = fc.record({ dx: fc.integer({ min: -14, max: 14 }), dy: fc.integer({ min: -10, max: 10 }) });
const away = fc.record({ dx: fc.integer({ min: -6, max: 6 }), dy: fc.integer({ min: -6, max: 6 }) });

const lumaAt = (x: number, y: number): number => WHOLE.data[y * WIDTH + x];

describe('luma a little away from a source', () => {
  it('is the picture’s own there, whole pixels away, and nothing outside of it', () => {
    fc.assert(
      fc.property(shift, away, (source, { dx, dy }) => {
        const nearby = nearbyLuma(PIXELS, source, RECT, 6);
        if (!nearby) throw new Error('some of it lies in the picture');
        const { luma, there } = readNearby(nearby, dx, dy);
        luma.forEach((value, i) => {
          const x = RECT.left + source.dx + dx + (i % RECT.width);
          const y = RECT.top + source.dy + dy + Math.floor(i / RECT.width);
          const isInside = x >= 0 && y >= 0 && x < WIDTH && y < HEIGHT;
          if (there[i]) expect(value).toBeCloseTo(lumaAt(x, y), 5);
          // What is read may end at the border of what was fetched, never reach beyond it.
          if (!isInside) expect(there[i]).toBe(0);
        });
      }),
    );
  });

  it('between pixels follows a smooth picture', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -3, max: 3, noNaN: true }),
        fc.double({ min: -3, max: 3, noNaN: true }),
        (dx, dy) => {
          const nearby = nearbyLuma(PIXELS, { dx: 0, dy: 0 }, RECT, 6);
          if (!nearby) throw new Error('it lies in the picture');
          const { luma, there } = readNearby(nearby, dx, dy);
          luma.forEach((value, i) => {
            if (!there[i]) return;
            const x = RECT.left + dx + (i % RECT.width);
            const y = RECT.top + dy + Math.floor(i / RECT.width);
            const around = [0, 1].flatMap((a) =>
              [0, 1].map((b) => lumaAt(Math.floor(x) + a, Math.floor(y) + b)),
            );
            const room = 0.15 * (Math.max(...around) - Math.min(...around)) + 1;
            expect(value).toBeGreaterThan(Math.min(...around) - room);
            expect(value).toBeLessThan(Math.max(...around) + room);
          });
        },
      ),
    );
  });
});

describe('the correlation of a ring', () => {
  const places = Array.from({ length: RECT.width * RECT.height }, (_, i) => i).filter((i) => i % 3 !== 1);
  const target = Float32Array.from({ length: RECT.width * RECT.height }, (_, i) =>
    lumaAt(RECT.left + (i % RECT.width), RECT.top + Math.floor(i / RECT.width)),
  );

  it('is Pearson’s, and 1 with itself', () => {
    const ring = ringValues(places, target);
    fc.assert(
      fc.property(shift, away, (source, { dx, dy }) => {
        const nearby = nearbyLuma(PIXELS, source, RECT, 6);
        if (!nearby) throw new Error('some of it lies in the picture');
        const ours = correlationNearby(nearby, ring, dx, dy);
        const at = (i: number): readonly [number, number] => [
          RECT.left + source.dx + dx + (i % RECT.width),
          RECT.top + source.dy + dy + Math.floor(i / RECT.width),
        ];
        const [left, top] = at(0);
        const isInside = left >= 0 && top >= 0 && left + RECT.width <= WIDTH && top + RECT.height <= HEIGHT;
        if (!isInside) {
          expect(ours).toBeNull();
          return;
        }
        const others = places.map((i) => lumaAt(...at(i)));
        const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b, 0) / values.length;
        const own = places.map((i) => target[i]);
        const [mine, theirs] = [mean(own), mean(others)];
        const sum = (of: (k: number) => number): number => places.reduce((all, _, k) => all + of(k), 0);
        const pearson =
          sum((k) => (own[k] - mine) * (others[k] - theirs)) /
          Math.sqrt(sum((k) => (own[k] - mine) ** 2) * sum((k) => (others[k] - theirs) ** 2));
        expect(ours).toBeCloseTo(pearson, 4);
        if (source.dx + dx === 0 && source.dy + dy === 0) expect(ours).toBeCloseTo(1, 6);
      }),
    );
    const itself = nearbyLuma(PIXELS, { dx: 0, dy: 0 }, RECT, 2);
    expect(itself && correlationNearby(itself, ring, 0, 0)).toBeCloseTo(1, 6);
  });

  it('of too few places, or of one tone, says nothing', () => {
    const nearby = nearbyLuma(PIXELS, { dx: 0, dy: 0 }, RECT, 2);
    if (!nearby) throw new Error('it lies in the picture');
    expect(correlationNearby(nearby, ringValues([0, 1, 2], target), 0, 0)).toBe(-1);
    expect(
      correlationNearby(
        nearby,
        ringValues(
          places,
          target.map(() => 7),
        ),
        0,
        0,
      ),
    ).toBe(-1);
  });
});
