import { gaussian, growForest, mulberry } from '@fennip/core';
import { describe, expect, it } from 'vitest';
import { onLines, scoreLines } from '../onLines.ts';
import { BOOST_DEFAULTS, boost } from './boost.ts';
import { calibrate } from './calibrate.ts';
import { ownShareCounts } from './closerSamples.ts';
import { logistic } from './logistic.ts';

/** Rows of two traits; a row is a fault where the first is large and the second small. */
function examples(count: number, seed: number): { rows: Float64Array[]; labels: number[] } {
  const uniform = mulberry(seed);
  const rows = Array.from({ length: count }, () => Float64Array.of(uniform(), uniform(), uniform()));
  return { rows, labels: rows.map(([a, b]) => (a > 0.6 && b < 0.5 ? 1 : 0)) };
}

describe('boosting', () => {
  it('learns what two traits say together, and is the same on every run', () => {
    const { rows, labels } = examples(3000, 1);
    const train = () => boost(['a', 'b', 'noise'], rows, labels, { ...BOOST_DEFAULTS, trees: 60 });
    expect(train()).toEqual(train());
    const forest = growForest(train());
    const unseen = examples(1000, 2);
    const right = unseen.rows.filter((row, i) => forest.score(row) > 0 === (unseen.labels[i] === 1)).length;
    expect(right).toBeGreaterThan(970);
  });
});

describe('calibrating', () => {
  it('finds the line by which scores that are too sure mean what they say', () => {
    const uniform = mulberry(5);
    const truth = Array.from({ length: 20_000 }, () => 2 * gaussian(uniform) - 1);
    const labels = truth.map((odds) => (uniform() < 1 / (1 + Math.exp(-odds)) ? 1 : 0));
    const { slope, offset } = calibrate(
      truth.map((odds) => 2 * odds + 1),
      labels,
    );
    expect(slope).toBeCloseTo(0.5, 1);
    expect(offset).toBeCloseTo(-0.5, 1);
  });
});

describe('weighing values', () => {
  it('finds the weights that labels were drawn by, and next to none for noise', () => {
    const uniform = mulberry(9);
    const rows = Array.from({ length: 20_000 }, () => [
      1,
      gaussian(uniform),
      gaussian(uniform),
      gaussian(uniform),
    ]);
    const labels = rows.map(([, a, b]) => (uniform() < 1 / (1 + Math.exp(1 - 2 * a + 0.5 * b)) ? 1 : 0));
    const weights = logistic(rows, labels);
    [-1, 2, -0.5, 0].forEach((wanted, k) => expect(Math.abs(weights[k] - wanted)).toBeLessThan(0.12));
  });
});

describe('how much an own share counts', () => {
  /** Pictures of a hundred places, each with its own share of faults, and scores as a forest gives that knows a share of 0.3. */
  function pictures(shares: readonly number[]): {
    scores: number[];
    labels: number[];
    traits: Float64Array[];
    groups: number[];
  } {
    const uniform = mulberry(12);
    const rows = shares.flatMap((share, picture) =>
      Array.from({ length: 100 }, () => {
        const label = uniform() < share ? 1 : 0;
        // Two bells three apart: their log-odds is a straight line, shifted by that of the share it knows.
        const seen = gaussian(uniform) + 3 * label;
        return { picture, label, score: 3 * seen - 4.5 + Math.log(0.3 / 0.7) };
      }),
    );
    return {
      scores: rows.map(({ score }) => score),
      // The finder knew no better than the share that was trained on.
      traits: rows.map(() => Float64Array.of(Math.log(0.3 / 0.7))),
      labels: rows.map(({ label }) => label),
      groups: rows.map(({ picture }) => picture),
    };
  }

  it('is much where pictures differ, and nothing where a share is no less than usual', () => {
    const few = pictures(Array.from({ length: 30 }, () => 0.03));
    expect(ownShareCounts(few.scores, few, 0.3)).toBeGreaterThanOrEqual(0.8);
    const many = pictures(Array.from({ length: 30 }, () => 0.6));
    expect(ownShareCounts(many.scores, many, 0.3)).toBeLessThanOrEqual(0.2);
  });
});

describe('scoring lines', () => {
  const line = (y: number, from: number, to: number, polarity: 'dark' | 'bright' = 'dark') => ({
    polarity,
    width: 2,
    path: [
      [from, y],
      [to, y],
    ] as const,
  });
  const laid = (y: number) => ({ ...line(y, 0, 100), kind: 'scratch' as const, x: 50, y, r: 1, depth: 1 });

  it('counts a line that is found in two pieces once, and a piece that lies beside it as wrong', () => {
    const findings = [line(20, 0, 45), line(21, 50, 100), line(60, 0, 80)];
    expect(scoreLines(findings, [laid(20), laid(90)])).toMatchObject({ precision: 2 / 3, recall: 0.5 });
  });

  it('does not take a bright line for a dark one', () => {
    expect(onLines([line(20, 0, 100)], [1]).shareOf(line(20, 0, 100, 'bright'))).toBe(0);
    expect(onLines([line(20, 0, 100)], [1]).shareOf(line(20, 50, 150))).toBeCloseTo(0.5, 1);
  });
});
