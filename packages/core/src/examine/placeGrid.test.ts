import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createDiscGrid } from './discGrid.ts';
import { createCourses } from './lines/courses.ts';
import { createPlaceGrid } from './placeGrid.ts';

const coordinate = fc.double({ min: -300, max: 5000, noNaN: true });

describe('a grid of places', () => {
  it('sees everything within a side of a place and nothing beyond two, also beyond the border of the picture', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { maxLength: 60 }),
        coordinate,
        coordinate,
        fc.double({ min: 2, max: 400, noNaN: true }),
        (places, x, y, side) => {
          const grid = createPlaceGrid<number>(side);
          places.forEach(([px, py], k) => grid.add(px, py, k));
          places.forEach(([px, py], k) => {
            const away = Math.max(Math.abs(px - x), Math.abs(py - y));
            const isSeen = grid.some(x, y, (thing) => thing === k);
            if (away < side) expect(isSeen).toBe(true);
            if (away > 2 * side) expect(isSeen).toBe(false);
          });
        },
      ),
    );
  });
});

describe('a grid of discs', () => {
  const disc = fc.record({ x: coordinate, y: coordinate, r: fc.double({ min: 0.5, max: 150, noNaN: true }) });

  it('finds what a disc meets, also beyond the border of the picture', () => {
    fc.assert(
      fc.property(fc.array(disc, { maxLength: 60 }), disc, (discs, asked) => {
        const grid = createDiscGrid<number>();
        discs.forEach((one, k) => grid.add(one, k));
        discs.forEach(({ x, y, r }, k) => {
          const isMet = Math.hypot(x - asked.x, y - asked.y) < Math.max(r, asked.r);
          if (isMet) expect(grid.find(asked, (thing) => thing === k)).toBe(k);
        });
        expect(grid.find(asked, () => false)).toBeUndefined();
      }),
    );
  });
});

describe('the course of a line', () => {
  it('has what lies within its half width and a margin, from end to end', () => {
    const courses = createCourses(2, 1);
    courses.add(
      [
        [10, 20],
        [90, 20],
      ],
      3,
    );
    for (const x of [10, 47.3, 90]) {
      expect(courses.has(x, 24.8)).toBe(true);
      expect(courses.has(x, 25.2)).toBe(false);
    }
    expect(courses.has(4, 20)).toBe(false);
  });
});
