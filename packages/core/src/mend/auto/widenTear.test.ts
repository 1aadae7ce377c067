import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Point } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { widenTear, widestTear } from './widenTear.ts';

const SIDE = 400;
const MARGIN = 16;
const END = 150;
const course = (x: number): number => 200 + 10 * Math.sin(x / 60);
/** Half the width of the tear: it gapes at the edge of the sheet and closes towards its point. */
const half = (x: number): number => Math.max(0, 8 * (1 - x / END));

/** A tear from the left edge of a print with a white margin. */
const torn = pixelsOf(
  pictureOf(
    SIDE,
    SIDE,
    (x, y) => {
      if (Math.abs(y - course(x)) < half(x)) return 0.97;
      return x < MARGIN ? 0.85 : 0.4 + 0.05 * Math.sin(x / 3) * Math.cos(y / 4);
    },
    { grain: 0.01 },
  ),
);
/** As it is found: to the white margin and no farther. */
const path = Array.from({ length: 22 }, (_, k): Point => [MARGIN + 2 + 6 * k, course(MARGIN + 2 + 6 * k)]);
const TEAR = { kind: 'tear', polarity: 'bright' } as const;

describe('a tear as it is mended', () => {
  it('goes on to the edge of the sheet, along what is seen of it', () => {
    const { points } = widenTear(path, 8, TEAR, torn);
    expect(points[0][0]).toBeLessThanOrEqual(0);
    for (const [x, y] of points.filter(([px]) => px > 0 && px < MARGIN))
      expect(Math.abs(y - course(x))).toBeLessThan(half(x) / 2);
    expect(points.slice(-path.length)).toEqual(path);
  });

  it('is as wide at each place as it gapes there', () => {
    const { points, width, pressure = [] } = widenTear(path, 8, TEAR, torn);
    points.forEach(([x], k) => {
      if (x < 2 || x > END - 30) return;
      const covered = (width * pressure[k]) / 2;
      expect(covered).toBeGreaterThan(half(x));
      expect(covered).toBeLessThan(half(x) + 4);
    });
  });

  it('is as wide as its crack is where it is a crease, whatever that lights beside it', () => {
    const wide = (x: number): number => (Math.abs(x - 80) < 14 ? 2.5 : 1.2);
    const creased = pixelsOf(
      pictureOf(
        220,
        80,
        (x, y) => {
          const away = y - 40;
          if (Math.abs(away) < wide(x)) return 0.9;
          // Lit on one side, shaded on the other, less and less.
          return 0.4 + 0.06 * Math.sign(away) * Math.exp(-Math.abs(away) / 6);
        },
        { grain: 0.01 },
      ),
    );
    const straight = Array.from({ length: 40 }, (_, k): Point => [32 + 4 * k, 40]);
    const { points, width, pressure = [] } = widenTear(straight, 2.4, { ...TEAR, kind: 'crease' }, creased);
    expect(points).toEqual(straight);
    points.forEach(([x], k) => {
      const covered = (width * pressure[k]) / 2;
      expect(covered).toBeGreaterThan(wide(x));
      if (Math.abs(Math.abs(x - 80) - 14) > 16) expect(covered).toBeLessThan(wide(x) + 2);
    });
  });

  it('is told to look no farther and reach no farther than it does', () => {
    const { target, reads } = widestTear(path, 8, TEAR.kind, torn.shape);
    const made = widenTear(path, 8, TEAR, torn);
    expect(made.width).toBeLessThanOrEqual(target.width);
    made.points.forEach(([x, y], k) => {
      const [sx, sy] = target.points[k];
      expect(Math.hypot(x - sx, y - sy)).toBeLessThanOrEqual(9);
    });
    expect(reads.left).toBe(0);
    expect(reads.width).toBeGreaterThan(END - 20);
  });

  it('stays as it was found where it ends far from any edge, or is no tear', () => {
    const inside = path.map(([x, y]): Point => [x + 100, y]);
    expect(widenTear(inside, 4, { ...TEAR, kind: 'crease' }, torn).points).toEqual(inside);
    expect(widenTear(path, 4, { ...TEAR, kind: 'scratch' }, torn)).toEqual({
      shape: 'stroke',
      points: path,
      width: 4,
    });
  });
});
