import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../random/mulberry.ts';
import type { Depth, Plane } from '../raster/raster.ts';
import { MOST_MEDIAN_RADIUS, medianFilter } from './median.ts';

interface Case {
  readonly width: number;
  readonly height: number;
  readonly radius: number;
  readonly depth: Depth;
  /** How many values there are: few make many of them equal. */
  readonly spread: number;
  readonly seed: number;
}

function planeOf({ width, height, depth, spread, seed }: Case): Plane {
  const uniform = mulberry(seed);
  const most = depth === 8 ? 255 : 65535;
  const values = Array.from({ length: spread }, () => Math.round(uniform() * most));
  const plane = depth === 8 ? new Uint8Array(width * height) : new Uint16Array(width * height);
  return plane.map(() => values[Math.floor(uniform() * spread)]);
}

/** All values of the window around a pixel, sorted. */
function windowOf(plane: Plane, { width, height, radius }: Case, x: number, y: number): number[] {
  const within = (at: number, size: number): number => Math.max(0, Math.min(size - 1, at));
  const values: number[] = [];
  for (let v = y - radius; v <= y + radius; v++)
    for (let u = x - radius; u <= x + radius; u++)
      values.push(plane[within(v, height) * width + within(u, width)]);
  return values.sort((a, b) => a - b);
}

const cases = (depth: Depth, most: number): fc.Arbitrary<Case> =>
  fc.record({
    width: fc.integer({ min: 1, max: 40 }),
    height: fc.integer({ min: 1, max: 24 }),
    radius: fc.integer({ min: 1, max: most }),
    depth: fc.constant(depth),
    spread: fc.constantFrom(1, 3, 40, 2000),
    seed: fc.integer(),
  });

/** Medians of a case beside the middle of each window, sorted. */
function* beside(one: Case): Generator<readonly [median: number, middle: number]> {
  const { width, height, depth, radius } = one;
  const plane = planeOf(one);
  const own = medianFilter({ plane, width, height, stride: width, depth }, radius);
  for (let i = 0; i < own.length; i++) {
    const values = windowOf(plane, one, i % width, Math.floor(i / width));
    yield [own[i], values[(values.length - 1) / 2]];
  }
}

describe('median', () => {
  it('of 8 bit is the middle of the sorted window', () => {
    fc.assert(
      fc.property(cases(8, 9), (one) => {
        for (const [median, middle] of beside(one)) expect(median).toBe(middle);
      }),
      { numRuns: 40 },
    );
  });

  it('of 16 bit lies in the bin of the middle of the sorted window', () => {
    fc.assert(
      fc.property(cases(16, 9), (one) => {
        for (const [median, middle] of beside(one)) expect(median >> 7).toBe(middle >> 7);
      }),
      { numRuns: 40 },
    );
  });

  it('counts right where windows are as large as they may be', () => {
    const one = { width: 9, height: 5, radius: MOST_MEDIAN_RADIUS, depth: 8, spread: 40, seed: 3 } as const;
    for (const [median, middle] of beside(one)) expect(median).toBe(middle);
    for (const [median, middle] of beside({ ...one, depth: 16 })) expect(median >> 7).toBe(middle >> 7);
  });

  it('is the same across the strips that a wide picture is worked out in', () => {
    const one = { width: 1100, height: 12, radius: 3, depth: 8, spread: 2000, seed: 5 } as const;
    for (const [median, middle] of beside(one)) expect(median).toBe(middle);
  });
});
