import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../random/mulberry.ts';
import { saidAgainstOwn } from './saidAgainstOwn.ts';

/** What chance says at places without dirt: an exponential law, as wide as the shoot is busy. */
const byChance = (count: number, frames: number, busy: number, seed: number) => {
  const uniform = mulberry(seed);
  return Array.from({ length: count }, () => ({
    score: -4 + uniform(),
    said: Array.from({ length: frames }, () => -busy * Math.log(1 - uniform())),
  }));
};

describe('what frames say for a place, against what they say by chance', () => {
  it('is near 0 in the mean where there is nothing, however busy the shoot', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 2, max: 12 }),
        fc.double({ min: 0.5, max: 8, noNaN: true }),
        fc.nat(),
        (frames, busy, seed) => {
          const said = saidAgainstOwn(byChance(120, frames, busy, seed));
          expect(Math.abs(said.reduce((sum, one) => sum + one, 0) / said.length)).toBeLessThan(0.5);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('tells a place that several frames speak for in a calm shoot, and not in one where much stands out', () => {
    const place = { score: 0, said: [9, 8, 7, 0.2, 0.1, 0.3] };
    const [calm, busy] = [0.8, 8].map((wide) => saidAgainstOwn([...byChance(120, 6, wide, 7), place])[120]);
    expect(calm).toBeGreaterThan(4);
    expect(busy).toBeLessThan(1);
  });

  it('never falls where a frame says more', () => {
    fc.assert(
      fc.property(
        fc.nat(),
        fc.integer({ min: 0, max: 4 }),
        fc.double({ min: 0, max: 30, noNaN: true }),
        (seed, frame, more) => {
          const places = byChance(40, 5, 2, seed);
          const [last] = places.slice(-1);
          const top = { ...last, score: 3 };
          const stronger = { ...top, said: top.said.map((one, k) => (k === frame ? one + more : one)) };
          const of = (one: typeof top): number => saidAgainstOwn([...places.slice(0, -1), one])[39];
          expect(of(stronger)).toBeGreaterThanOrEqual(of(top) - 1e-9);
        },
      ),
    );
  });

  it('says nothing of a chart without places or frames', () => {
    expect(saidAgainstOwn([])).toEqual([]);
    expect(saidAgainstOwn([{ score: 0, said: [] }])).toEqual([0]);
  });
});
