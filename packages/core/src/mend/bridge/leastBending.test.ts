import fc from 'fast-check';
import { expect, it } from 'vitest';
import { mulberry } from '../../random/mulberry.ts';
import { fillLeastBending } from './leastBending.ts';

const [WIDTH, HEIGHT] = [23, 19];

/** Lost pixels well inside, so that what the border of the part does plays no role. */
const holes = fc.integer({ min: 1, max: 1e6 }).map((seed) => {
  const uniform = mulberry(seed);
  const lost = new Uint8Array(WIDTH * HEIGHT);
  const [left, top] = [3 + Math.floor(8 * uniform()), 3 + Math.floor(5 * uniform())];
  const [width, height] = [1 + Math.floor(7 * uniform()), 1 + Math.floor(6 * uniform())];
  for (let y = top; y < top + height; y++)
    for (let x = left; x < left + width; x++) if (uniform() < 0.8) lost[y * WIDTH + x] = 1;
  return lost;
});

const planeOf = (tone: (x: number, y: number) => number): Float32Array =>
  Float32Array.from({ length: WIDTH * HEIGHT }, (_, i) => tone(i % WIDTH, Math.floor(i / WIDTH)));

it('bends no more than it must: a surface without bending energy of fourth order comes back as it was', () => {
  // The biharmonic operator takes every polynomial of third degree to nothing, so each is its own fill.
  const factor = fc.double({ min: -1, max: 1, noNaN: true });
  fc.assert(
    fc.property(holes, fc.tuple(factor, factor, factor, factor), (lost, [a, b, c, d]) => {
      const truth = planeOf((x, y) => 100 + 4 * a * x + 4 * b * y + 0.2 * c * x * y + 0.01 * d * x ** 3);
      const plane = truth.map((value, i) => (lost[i] ? 0 : value));
      fillLeastBending([plane], lost, WIDTH);
      plane.forEach((value, i) => expect(Math.abs(value - truth[i])).toBeLessThan(0.05));
    }),
    { numRuns: 40 },
  );
});

it('fills four planes together as it fills each of them, and leaves what is known', () => {
  fc.assert(
    fc.property(holes, fc.integer(), (lost, seed) => {
      const uniform = mulberry(seed);
      const planes = [0, 1, 2, 3].map(() => planeOf(() => 255 * uniform()));
      const together = planes.map((plane) => plane.slice());
      fillLeastBending(together, lost, WIDTH);
      planes.forEach((plane, c) => {
        const alone = plane.slice();
        fillLeastBending([alone], lost, WIDTH);
        alone.forEach((value, i) => {
          expect(Math.abs(value - together[c][i])).toBeLessThan(0.5);
          if (!lost[i]) expect(together[c][i]).toBe(plane[i]);
        });
      });
    }),
    { numRuns: 25 },
  );
});

it('stays nearer to what a pixel was the more strongly it is held to it', () => {
  const lost = new Uint8Array(WIDTH * HEIGHT);
  const at = 9 * WIDTH + 11;
  lost[at] = 1;
  const filledBy = (hold: number): number => {
    const plane = planeOf((x, y) => (y * WIDTH + x === at ? 200 : 100));
    fillLeastBending([plane], lost, WIDTH, [planeOf(() => hold)]);
    return plane[at];
  };
  const values = [0, 1, 10, 100, 1e5].map(filledBy);
  expect(values[0]).toBeCloseTo(100, 3);
  values.slice(1).forEach((value, k) => expect(value).toBeGreaterThan(values[k]));
  expect(values[4]).toBeCloseTo(200, 1);
});
