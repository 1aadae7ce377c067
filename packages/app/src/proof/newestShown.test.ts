import type { Rect } from '@fennip/core/raster';
import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createNewestShown } from './newestShown.ts';

const here: Rect = { left: 4, top: 5, width: 44, height: 44 };
const there: Rect = { ...here, left: 90 };

describe('what a cell of the proof shows', () => {
  it('is an answer of the wanted place though the next has been asked for', () => {
    const newest = createNewestShown();
    const first = newest.ask();
    newest.ask();
    expect(newest.takes(first, here, { ...here })).toBe(true);
  });

  it('is never an answer of another place, and tells when what is shown is one', () => {
    const newest = createNewestShown();
    expect(newest.takes(newest.ask(), here, here)).toBe(true);
    expect(newest.isElsewhere(here)).toBe(false);
    const late = newest.ask();
    expect(newest.takes(late, here, there)).toBe(false);
    expect(newest.takes(newest.ask(), here, null)).toBe(false);
    expect(newest.isElsewhere(there)).toBe(true);
  });

  it('never goes back to what is older, and ends with the newest, in whatever order answers come', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 12 }), fc.infiniteStream(fc.nat()), (count, chances) => {
        const newest = createNewestShown();
        const waiting = Array.from({ length: count }, () => newest.ask());
        const shown: number[] = [];
        while (waiting.length > 0) {
          const [answer] = waiting.splice((chances.next().value ?? 0) % waiting.length, 1);
          if (newest.takes(answer, here, here)) shown.push(answer);
        }
        expect([...shown].sort((a, b) => a - b)).toEqual(shown);
        expect(shown.at(-1)).toBe(count);
      }),
    );
  });
});
