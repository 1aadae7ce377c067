import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createPointGrid } from './pointGrid.ts';

const place = fc.double({ min: -300, max: 300, noNaN: true });

describe('points by their cells', () => {
  it('are all found within the side of a cell, each once, in their order down each column, and none beyond two', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(place, place), { maxLength: 60 }),
        fc.tuple(place, place),
        fc.double({ min: 1, max: 90, noNaN: true }),
        (points, [x, y], side) => {
          const grid = createPointGrid(
            Float64Array.from(points, ([px]) => px),
            Float64Array.from(points, ([, py]) => py),
            side,
          );
          const found = [...grid.found.subarray(0, grid.near(x, y))];
          expect(new Set(found).size).toBe(found.length);
          points.forEach(([px, py], k) => {
            const away = Math.max(Math.abs(px - x), Math.abs(py - y));
            if (away < side) expect(found).toContain(k);
            if (away > 2 * side) expect(found).not.toContain(k);
          });
          const column = (k: number): number => Math.floor(points[k][0] / side);
          const row = (k: number): number => Math.floor(points[k][1] / side);
          const sorted = [...found].sort((a, b) => column(a) - column(b) || row(a) - row(b) || a - b);
          expect(found).toEqual(sorted);
        },
      ),
    );
  });
});
