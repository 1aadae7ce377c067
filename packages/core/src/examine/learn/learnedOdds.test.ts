import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fault } from '../../fault/fault.ts';
import { mulberry } from '../../random/mulberry.ts';
import { logistic } from '../../solve/logistic.ts';
import { leastConfidence } from '../sensitivity.ts';
import type { ReviewedPicture } from './learnedOdds.ts';
import { learnFrom, withLearned } from './learnedOdds.ts';

const SIDES = { width: 3000, height: 2000 };

const speck = (x: number, y: number, confidence: number, more: Partial<Fault> = {}): Fault => ({
  ...{ kind: 'speck', polarity: 'dark', x, y, r: 5, strength: 0.2, softness: 0.4, confidence },
  ...more,
});

/** A picture whose findings are what their confidences say, but for those that a habit of the subject makes none. */
function picture(seed: number, isNone: (fault: Fault) => boolean): { fault: Fault; isFault: boolean }[] {
  const uniform = mulberry(seed);
  return Array.from({ length: 80 }, () => {
    const polarity = uniform() < 0.5 ? 'dark' : 'bright';
    const confidence = logistic(8 * uniform() - 4);
    const fault = speck(3000 * uniform(), 2000 * uniform(), confidence, { polarity, r: 1 + 15 * uniform() });
    return { fault, isFault: !isNone(fault) && uniform() < confidence };
  });
}

/** What a restorer says of it: dismisses what is wrong of what is listed, and marks what was not listed. */
function reviewed(truth: ReturnType<typeof picture>, listed: readonly Fault[]): ReviewedPicture {
  const least = leastConfidence(0.7);
  return {
    ...SIDES,
    findings: truth.map(({ fault, isFault }, k) => ({
      fault,
      isFault: isFault || listed[k].confidence >= least ? isFault : null,
    })),
    marked: [],
  };
}

const f1 = (truth: ReturnType<typeof picture>, listed: readonly Fault[]): number => {
  const is = listed.map(({ confidence }) => confidence >= leastConfidence(0.7));
  const right = truth.filter(({ isFault }, k) => isFault && is[k]).length;
  return (2 * right) / (truth.filter(({ isFault }) => isFault).length + is.filter(Boolean).length);
};

describe('what is learned from a restorer', () => {
  it('is nothing as long as nothing was decided', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.02, max: 0.98, noNaN: true }), (confidence) => {
        const [same] = withLearned([speck(100, 100, confidence)], SIDES, learnFrom([]));
        expect(same.confidence).toBeCloseTo(confidence, 6);
      }),
    );
  });

  it('makes a finder better on a job whose lamps it takes for specks, over twenty pictures', () => {
    const isLamp = (fault: Fault): boolean => fault.polarity === 'bright';
    const gone: ReviewedPicture[] = [];
    const scores = Array.from({ length: 20 }, (_, k) => {
      const truth = picture(100 + k, isLamp);
      const faults = truth.map(({ fault }) => fault);
      const listed = withLearned(faults, SIDES, learnFrom(gone));
      gone.push(reviewed(truth, listed));
      return { before: f1(truth, faults), after: f1(truth, listed) };
    });
    const mean = (of: 'before' | 'after'): number =>
      scores.slice(2).reduce((sum, one) => sum + one[of], 0) / 18;
    expect(mean('after')).toBeGreaterThan(mean('before') + 0.1);
  });

  it('does hardly any harm where the finder is right', () => {
    const gone = Array.from({ length: 10 }, (_, k) => {
      const truth = picture(300 + k, () => false);
      return reviewed(
        truth,
        truth.map(({ fault }) => fault),
      );
    });
    const truth = picture(400, () => false);
    const faults = truth.map(({ fault }) => fault);
    expect(f1(truth, withLearned(faults, SIDES, learnFrom(gone)))).toBeGreaterThan(f1(truth, faults) - 0.05);
  });

  it('knows places: what lay at the same place of another picture lies here too, and what was dismissed there is none', () => {
    const dust = speck(1200, 800, 0.4);
    const lamp = speck(400, 300, 0.4);
    const learned = learnFrom([
      {
        ...SIDES,
        findings: [
          { fault: dust, isFault: true },
          { fault: lamp, isFault: false },
        ],
        marked: [speck(2000, 1500, 0)],
      },
    ]);
    const of = (x: number, y: number): number =>
      withLearned([speck(x, y, 0.4)], SIDES, learned)[0].confidence;
    const elsewhere = of(2600, 300);
    expect(of(1201, 801)).toBeGreaterThan(elsewhere + 0.1);
    expect(of(2002, 1500)).toBeGreaterThan(elsewhere + 0.1);
    expect(of(401, 299)).toBeLessThan(elsewhere - 0.1);
    // At half the size the same place is at half the coordinates.
    const half = { width: 1500, height: 1000 };
    expect(withLearned([speck(600, 400, 0.4, { r: 2.5 })], half, learned)[0].confidence).toBeGreaterThan(
      elsewhere + 0.1,
    );
  });

  it('never turns the order of two findings of one kind and size', () => {
    const gone = [
      reviewed(
        picture(500, () => true),
        picture(500, () => true).map(({ fault }) => fault),
      ),
    ];
    const learned = learnFrom(gone);
    fc.assert(
      fc.property(
        fc.double({ min: 0.02, max: 0.97, noNaN: true }),
        fc.double({ min: 0.02, max: 0.97, noNaN: true }),
        (a, b) => {
          const [one, two] = withLearned([speck(50, 50, a), speck(60, 1950, b)], SIDES, learned);
          return a === b || a > b === one.confidence > two.confidence || one.confidence === two.confidence;
        },
      ),
    );
  });
});
