import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Rect } from './rect.ts';
import {
  growRect,
  holdsPoint,
  intersectRects,
  isEmpty,
  moveRect,
  rectHolds,
  rectsMeet,
  uniteRects,
} from './rect.ts';

const whole = fc.integer({ min: -40, max: 40 });
const side = fc.integer({ min: 0, max: 40 });
const rects: fc.Arbitrary<Rect> = fc.record({ left: whole, top: whole, width: side, height: side });
const filled = rects.filter((rect) => !isEmpty(rect));

/** The pixels of a rectangle, as the definition of all that is asked of it. */
const pixelsOf = ({ left, top, width, height }: Rect): Set<string> =>
  new Set(
    Array.from({ length: Math.max(0, width) * Math.max(0, height) }, (_, i) =>
      [left + (i % width), top + Math.floor(i / width)].join(),
    ),
  );

describe('two rectangles', () => {
  it('have in common just the pixels that lie in both', () => {
    fc.assert(
      fc.property(rects, rects, (a, b) => {
        const other = pixelsOf(b);
        const common = [...pixelsOf(a)].filter((pixel) => other.has(pixel));
        const met = intersectRects(a, b);
        expect(isEmpty(met)).toBe(common.length === 0);
        if (!isEmpty(met)) expect(pixelsOf(met)).toEqual(new Set(common));
        expect(rectsMeet(a, b)).toBe(common.length > 0);
        expect(rectsMeet(b, a)).toBe(common.length > 0);
      }),
      { numRuns: 60 },
    );
  });

  it('lie in their union, which is the smallest that holds both', () => {
    fc.assert(
      fc.property(filled, filled, (a, b) => {
        const united = uniteRects(a, b);
        expect(rectHolds(united, a) && rectHolds(united, b)).toBe(true);
        for (const smaller of [
          { ...united, left: united.left + 1, width: united.width - 1 },
          { ...united, width: united.width - 1 },
          { ...united, top: united.top + 1, height: united.height - 1 },
          { ...united, height: united.height - 1 },
        ])
          expect(rectHolds(smaller, a) && rectHolds(smaller, b)).toBe(false);
      }),
    );
  });

  it('unite to the other where one is empty', () => {
    fc.assert(
      fc.property(filled, (rect) => {
        const nothing = { left: 3, top: 3, width: 0, height: 9 };
        expect(uniteRects(rect, nothing)).toEqual(rect);
        expect(uniteRects(nothing, rect)).toEqual(rect);
      }),
    );
  });

  it('hold one another just where all pixels of the one are pixels of the other', () => {
    fc.assert(
      fc.property(filled, filled, (a, b) => {
        const own = pixelsOf(a);
        expect(rectHolds(a, b)).toBe([...pixelsOf(b)].every((pixel) => own.has(pixel)));
      }),
      { numRuns: 60 },
    );
  });
});

describe('one rectangle', () => {
  it('comes back when it is moved there and back, or grown and shrunk', () => {
    fc.assert(
      fc.property(filled, whole, whole, side, (rect, dx, dy, by) => {
        expect(moveRect(moveRect(rect, dx, dy), -dx, -dy)).toEqual(rect);
        expect(growRect(growRect(rect, by), -by)).toEqual(rect);
        expect(rectHolds(growRect(rect, by), rect)).toBe(true);
      }),
    );
  });

  it('holds the points within it, its left and upper border among them', () => {
    fc.assert(
      fc.property(
        filled,
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        fc.double({ min: 0, max: 0.999, noNaN: true }),
        (rect, x, y) => {
          const { left, top, width, height } = rect;
          expect(holdsPoint(rect, left + x * width, top + y * height)).toBe(true);
          expect(holdsPoint(rect, left - 1, top + y * height)).toBe(false);
          expect(holdsPoint(rect, left + x * width, top + height + 1)).toBe(false);
        },
      ),
    );
  });
});
