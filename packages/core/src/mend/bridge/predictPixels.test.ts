import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../../random/mulberry.ts';
import type { Covariance } from './covariance.ts';
import { knownVariance, measureCovariance } from './covariance.ts';
import type { Witnesses } from './predictPixels.ts';
import { offsetsWithin, predictPixels, witnessesOf } from './predictPixels.ts';

const parts = fc.record({
  width: fc.integer({ min: 3, max: 19 }),
  height: fc.integer({ min: 3, max: 13 }),
  reach: fc.integer({ min: 1, max: 6 }),
  seed: fc.integer(),
});

function partOf({ width, height, seed }: { width: number; height: number; seed: number }): {
  values: Float32Array;
  known: Uint8Array;
} {
  const uniform = mulberry(seed);
  const values = Float32Array.from({ length: width * height }, () => uniform() - 0.5);
  return { values, known: Uint8Array.from(values, () => (uniform() < 0.8 ? 1 : 0)) };
}

/** How alike an unending process is that falls off with distance: exp(-distance / length). */
const fallingOff = (reach: number, length: number): Covariance => {
  const side = 2 * reach + 1;
  const table = new Float64Array(side * (reach + 1));
  for (let dy = 0; dy <= reach; dy++)
    for (let dx = -reach; dx <= reach; dx++)
      table[dy * side + dx + reach] = Math.exp(-Math.hypot(dx, dy) / length);
  return { reach, table };
};

/** Solves a small dense system by elimination with pivots, as textbooks have it. */
function solved(matrix: number[][], right: number[]): number[] {
  const rows = matrix.map((row, i) => [...row, right[i]]);
  const n = rows.length;
  for (let k = 0; k < n; k++) {
    const best = rows
      .slice(k)
      .reduce((b, row, i) => (Math.abs(row[k]) > Math.abs(rows[b][k]) ? k + i : b), k);
    [rows[k], rows[best]] = [rows[best], rows[k]];
    for (let i = k + 1; i < n; i++) {
      const factor = rows[i][k] / rows[k][k];
      for (let j = k; j <= n; j++) rows[i][j] -= factor * rows[k][j];
    }
  }
  const x = new Array<number>(n).fill(0);
  for (let k = n - 1; k >= 0; k--) {
    let sum = rows[k][n];
    for (let j = k + 1; j < n; j++) sum -= rows[k][j] * x[j];
    x[k] = sum / rows[k][k];
  }
  return x;
}

describe('how values go together', () => {
  it('is at no difference their mean square, and nowhere more', () => {
    fc.assert(
      fc.property(parts, (part) => {
        const { values, known } = partOf(part);
        const { table, reach } = measureCovariance(values, known, part.width, part.reach);
        expect(table[reach]).toBeCloseTo(knownVariance(values, known), 6);
        for (const value of table) expect(Math.abs(value)).toBeLessThanOrEqual(table[reach] + 1e-9);
      }),
    );
  });

  it('is four times as much for twice the values, and mirrored in a mirror', () => {
    fc.assert(
      fc.property(parts, (part) => {
        const { values, known } = partOf(part);
        const { width } = part;
        const { table, reach } = measureCovariance(values, known, width, part.reach);
        const twice = measureCovariance(
          values.map((value) => 2 * value),
          known,
          width,
          reach,
        );
        table.forEach((value, i) => expect(twice.table[i]).toBeCloseTo(4 * value, 5));
        const inMirror = (i: number): number => i - (i % width) + width - 1 - (i % width);
        const mirrored = measureCovariance(
          values.map((_, i) => values[inMirror(i)]),
          known.map((_, i) => known[inMirror(i)]),
          width,
          reach,
        );
        const side = 2 * reach + 1;
        // In the first row only differences to the right are told; they are their own mirror image.
        for (let i = reach; i < table.length; i++) {
          const opposite = i < side ? i : i - (i % side) + side - 1 - (i % side);
          expect(mirrored.table[opposite]).toBeCloseTo(table[i], 6);
        }
      }),
    );
  });

  it('along lines that all run one way is longest that way', () => {
    const uniform = mulberry(5);
    const tones = Array.from({ length: 24 }, () => uniform() - 0.5);
    const values = Float32Array.from({ length: 24 * 24 }, (_, i) => tones[i % 24]);
    const { table, reach } = measureCovariance(values, new Uint8Array(values.length).fill(1), 24, 4);
    const side = 2 * reach + 1;
    for (let distance = 1; distance <= 4; distance++)
      expect(table[distance * side + reach]).toBeGreaterThan(table[reach + distance] + 0.3 * table[reach]);
  });
});

describe('a pixel that is predicted', () => {
  const REACH = 6;
  const covariance = fallingOff(2 * REACH, 3);

  it('is what simple kriging says, solved as a dense system', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const uniform = mulberry(seed);
        const width = 2 * REACH + 1;
        const at = REACH * width + REACH;
        const told = Float32Array.from({ length: width * width }, (_, i) =>
          i === at || uniform() < 0.7 ? Infinity : uniform() < 0.5 ? 0 : 0.3 * uniform(),
        );
        const plane = Float32Array.from(told, () => uniform() - 0.5);
        const witnesses = witnessesOf(told, width, at, offsetsWithin(REACH), 1);
        const onto = new Float32Array(width * width);
        predictPixels([plane], width, [at], [witnesses], covariance, [onto]);
        const { near, errors } = witnesses;
        const likeness = (dx: number, dy: number): number => Math.exp(-Math.hypot(dx, dy) / 3);
        // The diagonal holds a little noise of its own, which is measured from what the prediction itself uses.
        const alone: Witnesses = { near: [{ dx: 0, dy: 0 }], errors: [0] };
        const one = new Float32Array(width * width);
        predictPixels([new Float32Array(width * width).fill(1)], width, [at], [alone], covariance, [one]);
        const diagonal = 1 / one[at];
        const matrix = near.map((p, i) =>
          near.map((q, j) => (i === j ? diagonal + errors[i] ** 2 : likeness(p.dx - q.dx, p.dy - q.dy))),
        );
        const weights = solved(
          matrix,
          near.map(({ dx, dy }) => likeness(dx, dy)),
        );
        const wanted = weights.reduce(
          (sum, weight, k) => sum + weight * plane[at + near[k].dy * width + near[k].dx],
          0,
        );
        expect(onto[at]).toBeCloseTo(wanted, 4);
      }),
      { numRuns: 40 },
    );
  });

  it('is nothing but the trend where nothing is known nearby', () => {
    const told = new Float32Array(49).fill(Infinity);
    const witnesses = witnessesOf(told, 7, 24, offsetsWithin(3), 1);
    expect(witnesses.near).toEqual([]);
    const onto = new Float32Array(49).fill(9);
    predictPixels([new Float32Array(49).fill(1)], 7, [24], [witnesses], covariance, [onto]);
    expect(onto[24]).toBe(0);
  });

  it('rests on the nearest that tell something', () => {
    fc.assert(
      fc.property(fc.integer(), (seed) => {
        const uniform = mulberry(seed);
        const told = Float32Array.from({ length: 169 }, () => (uniform() < 0.5 ? Infinity : 0));
        told[84] = Infinity;
        const { near } = witnessesOf(told, 13, 84, offsetsWithin(6), 1);
        const distances = near.map(({ dx, dy }) => Math.hypot(dx, dy));
        expect(distances).toEqual([...distances].sort((a, b) => a - b));
        for (const { dx, dy } of near) expect(told[84 + 13 * dy + dx]).toBe(0);
      }),
    );
  });
});
