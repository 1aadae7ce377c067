import { describe, expect, it } from 'vitest';
import { wholeWindow } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { rimWidth } from './rimWidth.ts';

const HOLE: readonly Point[] = [
  [50, 50],
  [90, 50],
  [90, 90],
  [50, 90],
];
/** How far a place lies outside of the hole, in pixels. */
const outside = (x: number, y: number): number => Math.max(50 - x, x - 90, 50 - y, y - 90, 0);

describe('the rim of a loss', () => {
  it('is as wide as torn fibres show around it', () => {
    for (const rim of [0, 3, 7]) {
      const torn = pictureOf(
        140,
        140,
        (x, y) => {
          const away = outside(x + 0.5, y + 0.5);
          return away === 0 ? 0.95 : away <= rim ? 0.8 : 0.4;
        },
        { grain: 0.01 },
      );
      expect(Math.abs(rimWidth(HOLE, wholeWindow(torn)) - rim)).toBeLessThanOrEqual(1);
    }
  });

  it('is none where only the surroundings are rough', () => {
    const rough = pictureOf(140, 140, (x, y) =>
      outside(x + 0.5, y + 0.5) === 0 ? 0.95 : (Math.floor(x / 3) + Math.floor(y / 3)) % 2 === 0 ? 0.5 : 0.35,
    );
    expect(rimWidth(HOLE, wholeWindow(rough))).toBeLessThanOrEqual(1);
  });
});
