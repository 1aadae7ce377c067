import { describe, expect, it } from 'vitest';
import { lumaPlane } from '@fennip/core/raster';
import { pictureOf } from '../../packages/core/src/testing/pictures.ts';
import { SEEN_LINE, lineStandsOut } from './lineStandsOut.ts';

const LINE = {
  path: [
    [30, 80.5],
    [170, 80.5],
  ],
  r: 1,
  polarity: 'dark',
} as const;
/** A tone that is darker by a share on two rows. */
const standing = (tone: (x: number, y: number) => number, depth: number, end = 200): number =>
  lineStandsOut(
    lumaPlane(
      pictureOf(200, 160, (x, y) => tone(x, y) * (Math.abs(y - 80) < 1 && x < end ? 1 - depth : 1), {
        grain: 0.01,
      }),
    ),
    LINE,
  );
const rows = (x: number, y: number): number => 0.5 + 0.2 * Math.sin(x / 2) * Math.sin(y / 2 + 1);

describe('how far a line stands out', () => {
  it('is much on an even ground, and hardly anything where none is', () => {
    expect(standing(() => 0.5, 0.3)).toBeGreaterThan(3);
    expect(standing(() => 0.5, 0)).toBeLessThan(SEEN_LINE);
  });

  it('is little among what is as rough as it is deep', () => {
    expect(standing(rows, 0.15)).toBeLessThan(SEEN_LINE);
  });

  it('is that of half its course at least', () => {
    expect(standing(() => 0.5, 0.3, 140)).toBeGreaterThan(SEEN_LINE);
    expect(standing(() => 0.5, 0.3, 60)).toBeLessThan(SEEN_LINE);
  });
});
