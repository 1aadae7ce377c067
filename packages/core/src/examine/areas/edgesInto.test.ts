import { describe, expect, it } from 'vitest';
import { wholeWindow } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { edgesInto } from './edgesInto.ts';

const hole: Point[] = [
  [60, 40],
  [120, 40],
  [120, 100],
  [60, 100],
];
const isIn = (x: number, y: number): boolean => x > 60 && x < 120 && y > 40 && y < 100;

describe('the edges that run into an area', () => {
  it('are found where a band enters and leaves it, with the way it goes on', () => {
    // A dark band aslant through the hole: its two edges meet the border four times.
    const band = (x: number, y: number): boolean => Math.abs(y - 70 - 0.3 * (x - 90)) < 9;
    const picture = pictureOf(
      180,
      140,
      (x, y) => {
        if (isIn(x, y)) return 0.95;
        return band(x, y) ? 0.25 : 0.6;
      },
      { grain: 0.01 },
    );
    const edges = edgesInto(hole, wholeWindow(picture));
    expect(edges).toHaveLength(4);
    for (const { x, y, angle, step } of edges) {
      expect(Math.min(Math.abs(x - 60), Math.abs(x - 120))).toBeLessThan(1);
      const off = Math.abs(Math.abs(y - 70 - 0.3 * (x - 90)) - 9 * Math.hypot(1, 0.3));
      expect(off).toBeLessThan(3);
      // Inwards, along the band.
      expect(Math.sign(Math.cos(angle))).toBe(x < 90 ? 1 : -1);
      expect(Math.abs(Math.tan(angle) - 0.3)).toBeLessThan(0.25);
      expect(step).toBeGreaterThan(0.2);
    }
  });

  it('are none on calm ground, or where an edge only runs along the border', () => {
    const calm = pictureOf(180, 140, (x, y) => (isIn(x, y) ? 0.95 : 0.5 + 0.001 * x), { grain: 0.01 });
    expect(edgesInto(hole, wholeWindow(calm))).toEqual([]);
    const along = pictureOf(180, 140, (x, y) => {
      if (isIn(x, y)) return 0.95;
      return y > 105 ? 0.3 : 0.6;
    });
    expect(edgesInto(hole, wholeWindow(along))).toEqual([]);
  });
});
