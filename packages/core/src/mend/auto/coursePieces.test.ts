import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Point } from '../../target/target.ts';
import { coursePieces } from './coursePieces.ts';

const coordinate = fc.double({ min: -200, max: 200, noNaN: true });
const course = fc.array(fc.tuple(coordinate, coordinate), { minLength: 2, maxLength: 9 });

describe('the pieces of a course', () => {
  it('follow one another from its first point to its last', () => {
    fc.assert(
      fc.property(course, fc.double({ min: 3, max: 60, noNaN: true }), (points: readonly Point[], length) => {
        const { count, at } = coursePieces(points, length);
        const steps = 300;
        const pieces = Array.from({ length: steps + 1 }, (_, k) => at((k / steps) * (points.length - 1)));
        expect(pieces[0]).toBe(0);
        expect(pieces.filter((piece) => !Number.isInteger(piece) || piece < 0 || piece >= count)).toEqual([]);
        expect(pieces).toEqual(pieces.toSorted((a, b) => a - b));
      }),
    );
  });

  it('are as long as one another, wherever the points lie', () => {
    const { count, at } = coursePieces(
      [
        [0, 0],
        [10, 0],
        [100, 0],
      ],
      25,
    );
    expect(count).toBe(4);
    expect([5, 24, 26, 49, 51, 74, 76, 100].map((x) => at(x < 10 ? x / 10 : 1 + (x - 10) / 90))).toEqual([
      0, 0, 1, 1, 2, 2, 3, 3,
    ]);
  });

  it('are one where the course is a point', () => {
    expect(coursePieces([[3, 4]], 24)).toMatchObject({ count: 1 });
    expect(coursePieces([[3, 4]], 24).at(0)).toBe(0);
  });
});
