import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createCourses } from './lines/courses.ts';
import { createPlaceGrid } from './placeGrid.ts';

const coordinate = fc.double({ min: -300, max: 5000, noNaN: true });

describe('a grid of places', () => {
  it('gives everything within a side of a place, each thing once, also beyond the border of the picture', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(coordinate, coordinate), { maxLength: 60 }),
        coordinate,
        coordinate,
        fc.double({ min: 2, max: 400, noNaN: true }),
        (places, x, y, side) => {
          const grid = createPlaceGrid<number>(side);
          places.forEach(([px, py], k) => grid.add(px, py, k));
          const near = grid.near(x, y);
          expect(new Set(near).size).toBe(near.length);
          places.forEach(([px, py], k) => {
            if (Math.hypot(px - x, py - y) < side) expect(near).toContain(k);
            expect(grid.some(x, y, (thing) => thing === k)).toBe(near.includes(k));
          });
        },
      ),
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
