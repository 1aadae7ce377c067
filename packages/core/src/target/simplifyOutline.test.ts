import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { simplifyOutline } from './simplifyOutline.ts';
import type { Point } from './target.ts';
import { distanceToStroke } from './targetDistance.ts';

const corner = fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }));

describe('a simpler border', () => {
  it('strays by no more than it may, and has no corner of its own', () => {
    fc.assert(
      fc.property(
        fc.array(corner, { minLength: 3, maxLength: 40 }),
        fc.double({ min: 0.1, max: 8, noNaN: true }),
        (points, tolerance) => {
          const simple = simplifyOutline(points, tolerance);
          expect(points).toEqual(expect.arrayContaining(simple));
          const closed = { shape: 'stroke', points: [...simple, simple[0]], width: 1 } as const;
          for (const [x, y] of points)
            expect(distanceToStroke(x, y, closed)).toBeLessThanOrEqual(tolerance + 1e-9);
        },
      ),
    );
  });

  it('of a finely drawn square is its four corners', () => {
    const side = Array.from({ length: 20 }, (_, i) => i);
    const square: Point[] = [
      ...side.map((i): Point => [i, 0]),
      ...side.map((i): Point => [20, i]),
      ...side.map((i): Point => [20 - i, 20]),
      ...side.map((i): Point => [0, 20 - i]),
    ];
    expect(simplifyOutline(square, 0.2)).toEqual([
      [0, 0],
      [20, 0],
      [20, 20],
      [0, 20],
    ]);
  });
});
