import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { solveSymmetric } from './cholesky.ts';
import { levenberg } from './levenberg.ts';

const number = fc.double({ min: -3, max: 3, noNaN: true });

describe('a symmetric system', () => {
  it('is solved so that it holds', () => {
    fc.assert(
      fc.property(
        fc.array(number, { minLength: 9, maxLength: 9 }),
        fc.array(number, { minLength: 3, maxLength: 3 }),
        (raw, right) => {
          // A times its transpose plus the identity is positive definite.
          const matrix = new Float64Array(9);
          for (let i = 0; i < 3; i++)
            for (let j = 0; j < 3; j++)
              for (let k = 0; k < 3; k++)
                matrix[3 * i + j] += raw[3 * i + k] * raw[3 * j + k] + (i === j ? 1 / 3 : 0);
          const solution = solveSymmetric(matrix, Float64Array.from(right));
          for (let i = 0; i < 3; i++) {
            let sum = 0;
            for (let j = 0; j < 3; j++) sum += matrix[3 * i + j] * (solution?.[j] ?? NaN);
            expect(sum).toBeCloseTo(right[i], 6);
          }
        },
      ),
    );
  });

  it('without a single answer has none', () => {
    expect(solveSymmetric(Float64Array.from([1, 2, 2, 1]), Float64Array.from([1, 1]))).toBeNull();
  });
});

describe('the way down', () => {
  it('ends in the valley of Rosenbrock (1960), from his own start', () => {
    // Least squares of r1 = 10 (y - x^2) and r2 = 1 - x; the minimum lies at (1, 1).
    const describePoint = ([x, y]: Float64Array) => {
      const [r1, r2] = [10 * (y - x * x), 1 - x];
      const [j1x, j1y] = [-20 * x, 10];
      return {
        cost: 0.5 * (r1 * r1 + r2 * r2),
        matrix: Float64Array.from([j1x * j1x + 1, j1x * j1y, j1x * j1y, j1y * j1y]),
        right: Float64Array.from([-(j1x * r1 - r2), -j1y * r1]),
      };
    };
    const { point } = levenberg(
      Float64Array.from([-1.2, 1]),
      describePoint,
      (from, step) => from.map((value, i) => value + step[i]),
      { rounds: 200, leastGain: 1e-14 },
    );
    expect(point[0]).toBeCloseTo(1, 4);
    expect(point[1]).toBeCloseTo(1, 4);
  });
});
