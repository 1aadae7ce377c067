import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaussian } from '../../random/gaussian.ts';
import { mulberry } from '../../random/mulberry.ts';
import { closeGap } from './closeGap.ts';

const [WIDTH, HEIGHT] = [48, 40];
const isIn = (i: number): boolean => Math.abs((i % WIDTH) - 24) <= 1;

/** A slope with waves and grain on it, in codes of 255. */
function ground(seed: number): Float32Array {
  const uniform = mulberry(seed);
  return Float32Array.from(
    { length: WIDTH * HEIGHT },
    (_, i) => 80 + (i % WIDTH) + 12 * Math.sin(i / WIDTH / 4) + 2 * gaussian(uniform),
  );
}

function rms(a: Float32Array, b: Float32Array): number {
  let [sum, count] = [0, 0];
  a.forEach((value, i) => {
    if (!isIn(i)) return;
    sum += (value - b[i]) ** 2;
    count++;
  });
  return Math.sqrt(sum / count);
}

/** Closes the strip in the middle when its pixels are off by `off` and said to be off by `told`. */
function closed(clean: Float32Array, off: number, told: number, seed = 3): Float32Array {
  const uniform = mulberry(seed);
  const values = clean.map((value, i) => (isIn(i) ? value + off * gaussian(uniform) : value));
  const error = Float32Array.from(values, (_, i) => (isIn(i) ? told : 0));
  closeGap({ values: [values], width: WIDTH, top: 255, error, excluded: null, reach: 8, seed });
  return values;
}

describe('a gap', () => {
  it('leaves what is known as it is, to the last bit', () => {
    fc.assert(
      fc.property(fc.nat(1000), fc.constantFrom(Infinity, 1, 4), (seed, told) => {
        const clean = ground(seed);
        closed(clean, 3, told).forEach((value, i) => {
          if (!isIn(i)) expect(value).toBe(clean[i]);
        });
      }),
      { numRuns: 10 },
    );
  });

  it('keeps what is told surely, and comes nearer the truth the more surely it is told', () => {
    const clean = ground(7);
    const [sure, rough, lost] = [0.2, 3, Infinity].map((told) =>
      rms(closed(clean, Math.min(told, 40), told), clean),
    );
    expect(sure).toBeLessThan(0.5);
    expect(rough).toBeLessThan(lost);
    expect(sure).toBeLessThan(rough);
  });

  it('takes nothing from pixels that are told to be lost, whatever they hold', () => {
    const clean = ground(9);
    const [one, other] = [30, 60].map((off) => closed(clean, off, Infinity));
    expect(rms(one, other)).toBeLessThan(0.01);
  });
});
