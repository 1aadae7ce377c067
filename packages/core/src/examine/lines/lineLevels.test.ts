import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { LINE_LEVELS, lineLevels } from './lineLevels.ts';

const sides = fc.integer({ min: 16, max: 40_000 });

describe('the levels on which lines are looked for', () => {
  it('begin with full size on every print, however large: a scratch is as thin as what made it', () => {
    fc.assert(
      fc.property(sides, sides, (width, height) => {
        expect(lineLevels('print', { width, height })[0]).toBe(0);
      }),
    );
  });

  it('begin with full size on small frames, and with a quarter of it on one of 24 megapixels', () => {
    expect(lineLevels('frame', { width: 2400, height: 1600 })).toEqual([0, 1, 2]);
    expect(lineLevels('frame', { width: 6000, height: 4000 })).toEqual([2, 3]);
    expect(lineLevels('frame', { width: 4000, height: 6000 })).toEqual([2, 3]);
  });

  it('show a frame as they show the same frame in half of the pixels, where they are there', () => {
    fc.assert(
      fc.property(fc.integer({ min: 3000, max: 11_000 }), (width) => {
        const [half, whole] = [width, 2 * width].map((side) =>
          lineLevels('frame', { width: side, height: 10 }),
        );
        expect(whole[0]).toBe(half[0] + 1);
      }),
    );
  });

  it('follow one another, and none is coarser than a ground has', () => {
    fc.assert(
      fc.property(sides, sides, (width, height) => {
        const levels = lineLevels('frame', { width, height });
        levels.forEach((level, k) => expect(level).toBe(levels[0] + k));
        expect(levels.length).toBeGreaterThan(1);
        expect(levels[levels.length - 1]).toBeLessThan(LINE_LEVELS);
      }),
    );
  });
});
