import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaussian } from '../../random/gaussian.ts';
import { mulberry } from '../../random/mulberry.ts';
import { calibrated } from './calibrated.ts';
import { confident } from './confident.ts';
import { AS_IT_IS, growForest } from './forest.ts';
import type { ScoredFault } from '../scoredFault.ts';
import { logOdds } from './logOdds.ts';
import { ownPrior } from './ownPrior.ts';

describe('a forest', () => {
  // Above 3 it asks the second trait, at or below it answers at once.
  const tree = [0, 3, 2, -1, -1.5, 0, 1, 0, 4, -1, 0.25, 0, -1, 2, 0];

  it('follows every tree to its leaf and adds the leaves up', () => {
    const forest = growForest({
      traits: ['a', 'b'],
      share: 0.5,
      base: 0.5,
      trees: [tree, tree],
      calibration: AS_IT_IS,
    });
    expect(forest.score([3, 9])).toBeCloseTo(0.5 - 3, 9);
    expect(forest.score([3.1, 0])).toBeCloseTo(0.5 + 0.5, 9);
    expect(forest.score([3.1, 0.1])).toBeCloseTo(0.5 + 4, 9);
  });

  it('leads many through its trees as it leads each', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(fc.double({ min: -9, max: 9, noNaN: true }), fc.double({ min: -1, max: 1, noNaN: true })),
          { maxLength: 40 },
        ),
        (rows) => {
          const forest = growForest({
            ...{ traits: ['a', 'b'], share: 0.5, base: -0.25, trees: [tree, tree, tree] },
            calibration: { slope: 0.5, offset: 1 },
          });
          const leaf = ([a, b]: readonly [number, number]): number => (a <= 3 ? -1.5 : b <= 0 ? 0.25 : 2);
          const expected = rows.map((row) => 0.5 * (3 * leaf(row) - 0.25) + 1);
          expect([...forest.scoreAll(rows)]).toEqual(expected);
          expect(rows.map((row) => forest.score(row))).toEqual(expected);
        },
      ),
      { numRuns: 40 },
    );
  });

  it('gives its base where it has no trees', () => {
    expect(growForest({ traits: [], share: 0.5, base: -2, trees: [], calibration: AS_IT_IS }).score([])).toBe(
      -2,
    );
  });
});

describe('the share of faults in a picture', () => {
  const TRAINED = 0.05;

  /** Log-odds of a good classifier, as if trained on that share, for a picture with another one. */
  function scoresFor(share: number, count: number, seed: number): { scores: number[]; isFault: boolean[] } {
    const uniform = mulberry(seed);
    const isFault = Array.from({ length: count }, (_, i) => i < share * count);
    const usual = Math.log(TRAINED / (1 - TRAINED));
    // Two normal laws, 4 spreads apart: their log likelihood ratio is linear.
    const scores = isFault.map((is) => 4 * (gaussian(uniform) + (is ? 4 : 0)) - 8 + usual);
    return { scores, isFault };
  }

  it('is told from the picture itself, clean or neglected, and turns scores into probabilities', () => {
    fc.assert(
      fc.property(fc.constantFrom(0.002, 0.01, 0.03), fc.integer({ min: 1, max: 500 }), (share, seed) => {
        const count = 6000;
        // A dozen faults of one picture tell it within half; ten pictures tell whether it is right.
        const told = Array.from({ length: 10 }, (_, k) => {
          const { scores } = scoresFor(share, count, 10 * seed + k);
          const shift = ownPrior({ scores, otherOdds: 0, count }, TRAINED);
          return scores.reduce((total, score) => total + 1 / (1 + Math.exp(-score - shift)), 0) / count;
        });
        const mean = told.reduce((sum, one) => sum + one, 0) / told.length;
        expect(mean).toBeGreaterThan(0.75 * share);
        expect(mean).toBeLessThan(1.3 * share);
      }),
      { numRuns: 15 },
    );
  });

  it('does not depend on whether hopeless candidates are told one by one or as a sum', () => {
    const { scores } = scoresFor(0.02, 3000, 7);
    const whole = ownPrior({ scores, otherOdds: 0, count: 3000 }, TRAINED);
    const kept = scores.filter((score) => score >= -7);
    const otherOdds = scores.filter((score) => score < -7).reduce((sum, score) => sum + Math.exp(score), 0);
    expect(ownPrior({ scores: kept, otherOdds, count: 3000 }, TRAINED)).toBeCloseTo(whole, 2);
  });

  it('of a picture without candidates changes nothing', () => {
    expect(ownPrior({ scores: [], otherOdds: 0, count: 0 }, TRAINED)).toBe(0);
  });
});

describe('how much a picture says of its own share', () => {
  const TRAINED = 0.1;
  const USUAL = 0.03;
  const placed = (score: number): ScoredFault => ({
    ...{ kind: 'scratch', polarity: 'dark', x: 9, y: 9, r: 1, strength: 0.2, softness: 0.3, tone: 0.5 },
    ...{ score, fit: 1 },
  });
  /** How far the log-odds of what was scored are moved. */
  const moved = (scores: readonly number[], counts: number): number => {
    const parts = [{ faults: scores.map(placed), others: 400, otherOdds: 0.4 }];
    const [first] = confident(parts, TRAINED, { counts, usual: USUAL });
    return logOdds(first.confidence) - scores[0];
  };

  it('lies between what is usual and what is its own, in log-odds, by how much its own counts', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 1, max: 5, noNaN: true }), { minLength: 1, maxLength: 40 }),
        fc.double({ min: 0, max: 1, noNaN: true }),
        (scores, counts) => {
          const [own, usual] = [moved(scores, 1), moved(scores, 0)];
          expect(usual).toBeCloseTo(logOdds(USUAL) - logOdds(TRAINED), 6);
          expect(moved(scores, counts)).toBeCloseTo(counts * own + (1 - counts) * usual, 6);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('is all its own where nothing else is said', () => {
    const parts = [{ faults: [placed(2), placed(0.5)], others: 300, otherOdds: 0.2 }];
    expect(confident(parts, TRAINED)).toEqual(confident(parts, TRAINED, { counts: 1, usual: USUAL }));
  });
});

describe('what is kept of many', () => {
  const kept = [0.02, 0.3, 0.5, 0.97].map((confidence) => ({ confidence }));

  it('stays in its order, and as sure as it was where nothing was learned', () => {
    calibrated(kept, AS_IT_IS).forEach(({ confidence }, k) =>
      expect(confidence).toBeCloseTo(kept[k].confidence, 12),
    );
    const surer = calibrated(kept, { slope: 1.6, offset: -0.4 }).map(({ confidence }) => confidence);
    expect([...surer].sort((a, b) => a - b)).toEqual(surer);
    expect(surer[2]).toBeCloseTo(1 / (1 + Math.exp(0.4)), 12);
  });
});
