import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../../target/target.ts';
import { AS_IT_LIES, after, fitPlacement, inverse, place, unplace } from './placement.ts';

const coordinate = fc.double({ min: -5000, max: 5000, noNaN: true });
const placements = fc.record({
  angle: fc.double({ min: -3.1, max: 3.1, noNaN: true }),
  dx: coordinate,
  dy: coordinate,
});
const points = fc.tuple(coordinate, coordinate);

const expectNear = ([ax, ay]: Point, [bx, by]: Point): void => {
  expect(Math.hypot(ax - bx, ay - by)).toBeLessThan(1e-6);
};

describe('a placement', () => {
  it('is taken back by its inverse', () => {
    fc.assert(
      fc.property(placements, points, (placement, at) => {
        expectNear(unplace(placement, place(placement, at)), at);
        expectNear(place(inverse(placement), place(placement, at)), at);
        expectNear(place(after(placement, inverse(placement)), at), at);
      }),
    );
  });

  it('follows another as one placement', () => {
    fc.assert(
      fc.property(placements, placements, points, (first, then, at) => {
        expectNear(place(after(first, then), at), place(then, place(first, at)));
      }),
    );
  });

  it('is found from where places come to lie', () => {
    fc.assert(
      fc.property(placements, fc.array(points, { minLength: 3, maxLength: 20 }), (placement, from) => {
        const spread = Math.max(...from.map(([x, y]) => Math.hypot(x - from[0][0], y - from[0][1])));
        fc.pre(spread > 10);
        const pairs = from.map((at) => ({ from: at, onto: place(placement, at), weight: 1 }));
        const found = fitPlacement(pairs);
        for (const at of from) expectNear(place(found, at), place(placement, at));
      }),
    );
  });

  it('is none where nothing is to lie anywhere', () => {
    expect(fitPlacement([])).toEqual(AS_IT_LIES);
  });
});
