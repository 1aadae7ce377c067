import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { labOf, lightOfLab } from './lab.ts';

describe('L*a*b*', () => {
  it('of the primaries of sRGB is what the tables say', () => {
    // The widely tabulated values for D65 and the 2 degree observer, from memory, to the second decimal.
    const table = [
      { light: [1, 0, 0], lab: [53.24, 80.09, 67.2] },
      { light: [0, 1, 0], lab: [87.73, -86.18, 83.18] },
      { light: [0, 0, 1], lab: [32.3, 79.19, -107.86] },
      { light: [1, 1, 1], lab: [100, 0, 0] },
    ];
    for (const { light, lab } of table)
      labOf(light[0], light[1], light[2]).forEach((value, i) =>
        expect(Math.abs(value - lab[i])).toBeLessThan(0.06),
      );
    // L* of the 18 % grey card (CIE 15:2004, formula 8.2): 116 * 0.18^(1/3) - 16.
    expect(labOf(0.18, 0.18, 0.18)[0]).toBeCloseTo(49.496, 3);
    // The straight part: L* = 903.3 Y below Y = 0.008856.
    expect(labOf(0.004, 0.004, 0.004)[0]).toBeCloseTo(903.3 * 0.004, 2);
  });

  it('is turned back into the same light', () => {
    const light = fc.double({ min: 0, max: 1, noNaN: true });
    fc.assert(
      fc.property(light, light, light, (red, green, blue) => {
        const back = lightOfLab(labOf(red, green, blue));
        [red, green, blue].forEach((value, i) => expect(back[i]).toBeCloseTo(value, 9));
      }),
    );
  });

  it('of grey has no colour', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (light) => {
        const [, a, b] = labOf(light, light, light);
        expect(Math.abs(a)).toBeLessThan(1e-9);
        expect(Math.abs(b)).toBeLessThan(1e-9);
      }),
    );
  });
});
