import { describe, expect, it } from 'vitest';
import { logOdds } from './classify/logOdds.ts';
import { ownPrior } from './classify/ownPrior.ts';
import { LINES_OWN_SHARE, LINES_TRAINED_SHARE } from './lines/findLines.ts';
import { LEAST_SCORE } from './scoredFault.ts';
import { leastConfidence } from './sensitivity.ts';
import { SPECK_CLASSIFIERS } from './specks/findSpecks.ts';

const NATURES = ['frame', 'print'] as const;
const confidenceAt = (logOddsThere: number): number => 1 / (1 + Math.exp(-logOddsThere));

/** What is added to scores on a picture where everything looks like a fault. */
const mostShift = (trained: number): number =>
  ownPrior({ scores: new Array<number>(1000).fill(9), otherOdds: 0, count: 1000 }, trained);

describe('what only counts', () => {
  it.each(NATURES)('is no speck of a %s that any sensitivity lists, however many there are', (nature) => {
    const shift = mostShift(SPECK_CLASSIFIERS[nature].share);
    expect(confidenceAt(LEAST_SCORE + shift)).toBeLessThan(leastConfidence(1));
  });

  it.each(NATURES)('is no line of a %s that any sensitivity lists, however many there are', (nature) => {
    const { counts, usual } = LINES_OWN_SHARE[nature];
    const ofUsual = (1 - counts) * (logOdds(usual) - logOdds(LINES_TRAINED_SHARE));
    const shift = counts * mostShift(LINES_TRAINED_SHARE) + ofUsual;
    expect(confidenceAt(LEAST_SCORE + shift)).toBeLessThan(leastConfidence(1));
  });
});
