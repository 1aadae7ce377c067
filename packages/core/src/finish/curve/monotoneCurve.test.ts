import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { monotoneCurve } from './monotoneCurve.ts';

const share = fc.integer({ min: 0, max: 100 }).map((n) => n / 100);
const columns = fc.uniqueArray(fc.integer({ min: 0, max: 100 }), { minLength: 2, maxLength: 9 });
const points = columns.chain((xs) =>
  fc
    .array(share, { minLength: xs.length, maxLength: xs.length })
    .map((ys) => [...xs].sort((a, b) => a - b).map((x, i): [number, number] => [x / 100, ys[i]])),
);
const rising = points.map((list) => {
  const ys = list.map(([, y]) => y).sort((a, b) => a - b);
  return list.map(([x], i): [number, number] => [x, ys[i]]);
});

describe('a tone curve', () => {
  it('goes through its points, and on level beyond them', () => {
    fc.assert(
      fc.property(points, (list) => {
        const curve = monotoneCurve(list);
        for (const [x, y] of list) expect(curve(x)).toBeCloseTo(y, 9);
        expect(curve(-1)).toBe(list[0][1]);
        expect(curve(2)).toBe(list[list.length - 1][1]);
      }),
    );
  });

  it('never goes beyond the two points it lies between', () => {
    fc.assert(
      fc.property(points, share, (list, t) => {
        const curve = monotoneCurve(list);
        list.slice(1).forEach(([right, b], i) => {
          const [left, a] = list[i];
          const value = curve(left + t * (right - left));
          expect(value).toBeGreaterThanOrEqual(Math.min(a, b) - 1e-9);
          expect(value).toBeLessThanOrEqual(Math.max(a, b) + 1e-9);
        });
      }),
    );
  });

  it('rises where its points do (Fritsch and Carlson 1980)', () => {
    fc.assert(
      fc.property(rising, (list) => {
        const curve = monotoneCurve(list);
        let before = -Infinity;
        for (let x = 0; x <= 1; x += 0.01) {
          const value = curve(x);
          expect(value).toBeGreaterThanOrEqual(before - 1e-9);
          before = value;
        }
      }),
    );
  });

  it('through two points is the straight line', () => {
    const line = monotoneCurve([
      [0, 0.1],
      [1, 0.9],
    ]);
    for (const x of [0.2, 0.5, 0.77]) expect(line(x)).toBeCloseTo(0.1 + 0.8 * x, 9);
  });
});
