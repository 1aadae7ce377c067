import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { SpanRows } from '../target/spanRows.ts';
import { maskOfSpans, spanArea, spansOfMask, spansOfPixels } from '../target/spanRows.ts';
import { maskPixels, targetDistance } from '../target/targetDistance.ts';
import { areaHoles, fillHoles } from './areaHoles.ts';
import { areaOfTarget } from './areaOfTarget.ts';
import { fenceCoverage } from './allowance.ts';
import { combineAreas, invertArea } from './combineAreas.ts';
import { growArea, shrinkArea } from './resizeArea.ts';

const PICTURE = { width: 23, height: 19 };
const RECT = { left: 0, top: 0, ...PICTURE };
const SIZE = PICTURE.width * PICTURE.height;

/** Sets of pixels with parts, holes and lone pixels. */
const pixels = fc
  .array(fc.tuple(fc.nat(22), fc.nat(18), fc.integer({ min: 1, max: 5 }), fc.boolean()), { maxLength: 8 })
  .map((squares) => {
    const inside = new Uint8Array(SIZE);
    for (const [left, top, side, isIn] of squares)
      for (let y = top; y < Math.min(19, top + side); y++)
        for (let x = left; x < Math.min(23, left + side); x++) inside[y * 23 + x] = isIn ? 1 : 0;
    return inside;
  });

const areaOf = (inside: Uint8Array): SpanRows => spansOfPixels(inside, RECT);
function pixelsOf(area: SpanRows): Uint8Array {
  const mask = maskOfSpans(area);
  return mask ? maskPixels(mask, RECT) : new Uint8Array(SIZE);
}
const list = (inside: Uint8Array): number[] => [...inside];

describe('an area of pixels', () => {
  it('is the same as spans, as a mask, and as pixels again', () => {
    fc.assert(
      fc.property(pixels, (inside) => {
        const mask = maskOfSpans(areaOf(inside));
        expect(mask === null).toBe(!inside.includes(1));
        if (!mask) return;
        expect(mask.runs.reduce((sum, run) => sum + run, 0)).toBe(mask.width * mask.height);
        expect(mask.runs.slice(1).every((run) => run > 0)).toBe(true);
        expect(list(maskPixels(mask, RECT))).toEqual(list(inside));
        expect(list(pixelsOf(spansOfMask(mask)))).toEqual(list(inside));
        expect(spanArea(spansOfMask(mask))).toBe(inside.reduce((sum, one) => sum + one, 0));
      }),
    );
  });

  it('is added, subtracted, intersected and inverted pixel by pixel', () => {
    fc.assert(
      fc.property(pixels, pixels, (one, other) => {
        const join = (how: 'add' | 'subtract' | 'intersect'): number[] =>
          list(pixelsOf(combineAreas(areaOf(one), areaOf(other), how)));
        expect(join('add')).toEqual(list(one.map((a, i) => a | other[i])));
        expect(join('subtract')).toEqual(list(one.map((a, i) => a & (1 - other[i]))));
        expect(join('intersect')).toEqual(list(one.map((a, i) => a & other[i])));
        expect(list(pixelsOf(invertArea(areaOf(one), PICTURE)))).toEqual(list(one.map((a) => 1 - a)));
      }),
    );
  });

  it('grows by what lies near it, and shrinks by what lies near its outside', () => {
    fc.assert(
      fc.property(pixels, fc.double({ min: 0, max: 6, noNaN: true }), (inside, by) => {
        const grown = pixelsOf(growArea(areaOf(inside), by, PICTURE));
        const shrunk = pixelsOf(shrinkArea(areaOf(inside), by, PICTURE));
        for (let i = 0; i < SIZE; i++) {
          let [nearIn, nearOut] = [false, false];
          for (let j = 0; j < SIZE; j++) {
            const away2 = ((i % 23) - (j % 23)) ** 2 + (Math.floor(i / 23) - Math.floor(j / 23)) ** 2;
            if (away2 > by * by) continue;
            if (inside[j]) nearIn = true;
            else nearOut = true;
          }
          expect(grown[i]).toBe(nearIn ? 1 : 0);
          expect(shrunk[i]).toBe(inside[i] && !nearOut ? 1 : 0);
        }
      }),
      { numRuns: 40 },
    );
  });

  it('has no holes once they are filled, and what was filled touched no border', () => {
    fc.assert(
      fc.property(pixels, (inside) => {
        const area = areaOf(inside);
        const holes = pixelsOf(areaHoles(area, PICTURE));
        holes.forEach((isHole, i) => {
          const [x, y] = [i % 23, Math.floor(i / 23)];
          if (isHole) expect(inside[i] === 0 && x > 0 && x < 22 && y > 0 && y < 18).toBe(true);
          // Beside a hole lies either the area or more of the hole.
          if (isHole)
            for (const j of [i - 1, i + 1, i - 23, i + 23]) expect(inside[j] || holes[j]).toBeTruthy();
        });
        expect(spanArea(areaHoles(fillHoles(area, PICTURE), PICTURE))).toBe(0);
      }),
    );
    const ring = Uint8Array.from({ length: SIZE }, (_, i) => {
      const away = Math.hypot((i % 23) - 11, Math.floor(i / 23) - 9);
      return away < 7 && away > 4 ? 1 : 0;
    });
    expect(spanArea(areaHoles(areaOf(ring), PICTURE))).toBe(
      ring.filter((_, i) => Math.hypot((i % 23) - 11, Math.floor(i / 23) - 9) <= 4).length,
    );
  });

  it('drawn by hand holds the pixels whose centres the shape holds', () => {
    const point = fc.tuple(
      fc.double({ min: -4, max: 27, noNaN: true }),
      fc.double({ min: -4, max: 23, noNaN: true }),
    );
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 1, maxLength: 5 }),
        fc.double({ min: 0.5, max: 9, noNaN: true }),
        (points, width) => {
          const stroke = { shape: 'stroke', points, width } as const;
          const drawn = pixelsOf(areaOfTarget(stroke, PICTURE));
          targetDistance(stroke, RECT).forEach((distance, i) => {
            if (Math.abs(distance) > 1e-4) expect(drawn[i]).toBe(distance <= 0 ? 1 : 0);
          });
        },
      ),
    );
  });
});

describe('the soft border of an area', () => {
  it('is half inside and half outside, and the same whatever part is looked at', () => {
    const inside = Uint8Array.from({ length: SIZE }, (_, i) => (i % 23 >= 10 ? 1 : 0));
    const area = maskOfSpans(areaOf(inside));
    if (!area) throw new Error('the area is not empty');
    const fence = { id: 'z', kind: 'zone', name: 'z', area, edge: 4, on: true } as const;
    const whole = fenceCoverage(fence, RECT, PICTURE);
    expect([...whole.slice(0, 23)].slice(7, 13)).toEqual([0, 0.125, 0.375, 0.625, 0.875, 1]);
    const part = fenceCoverage(fence, { left: 9, top: 3, width: 1, height: 1 }, PICTURE);
    expect(part[0]).toBeCloseTo(0.375, 6);
    const hard = fenceCoverage({ ...fence, edge: 0 }, RECT, PICTURE);
    expect(list(Uint8Array.from(hard))).toEqual(list(inside));
  });
});
