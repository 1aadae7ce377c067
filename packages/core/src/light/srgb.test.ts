import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linearToSrgb, srgbToLinear } from './srgb.ts';

describe('the sRGB transfer', () => {
  // IEC 61966-2-1:1999, clause 5.2: the two branches and where they meet; the values follow from the formula there.
  it('meets the points of IEC 61966-2-1', () => {
    expect(srgbToLinear(0)).toBe(0);
    expect(srgbToLinear(1)).toBe(1);
    expect(srgbToLinear(0.04045)).toBeCloseTo(0.0031308, 7);
    expect(linearToSrgb(0.0031308)).toBeCloseTo(0.04045, 5);
    expect(srgbToLinear(0.5)).toBeCloseTo(0.21404114, 8);
  });

  it('gives 18 % grey the well-known code 118 (common practice)', () => {
    expect(Math.round(255 * linearToSrgb(0.18))).toBe(118);
  });

  it('comes back from linear light', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (value) => {
        expect(linearToSrgb(srgbToLinear(value))).toBeCloseTo(value, 6);
      }),
    );
  });
});
