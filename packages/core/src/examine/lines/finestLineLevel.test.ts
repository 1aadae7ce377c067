import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { finestLineLevel } from './finestLineLevel.ts';
import { LINE_LEVELS } from './lineCandidates.ts';

const sides = fc.integer({ min: 16, max: 40_000 });

describe('the finest level on which lines are looked for', () => {
  it('is full size on every print, however large: a scratch is as thin as what made it', () => {
    fc.assert(
      fc.property(sides, sides, (width, height) => {
        expect(finestLineLevel('print', { width, height })).toBe(0);
      }),
    );
  });

  it('is full size on small frames, and half of it on one of 24 megapixels', () => {
    expect(finestLineLevel('frame', { width: 3000, height: 2000 })).toBe(0);
    expect(finestLineLevel('frame', { width: 6000, height: 4000 })).toBe(1);
    expect(finestLineLevel('frame', { width: 4000, height: 6000 })).toBe(1);
  });

  it('sees a frame as it sees the same frame in half of the pixels, where the level is there', () => {
    fc.assert(
      fc.property(fc.integer({ min: 2500, max: 4700 }), (width) => {
        const [half, whole] = [width, 2 * width].map((side) =>
          finestLineLevel('frame', { width: side, height: 10 }),
        );
        expect(whole).toBe(half + 1);
      }),
    );
    expect(finestLineLevel('frame', { width: 40_000, height: 30_000 })).toBe(LINE_LEVELS - 1);
  });
});
