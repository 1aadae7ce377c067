import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { createRaster } from '../raster/raster.ts';
import type { Intent } from './convertColours.ts';
import { convertColours, convertToGrey } from './convertColours.ts';
import { DISPLAY_P3_SPACE, SRGB_SPACE, inverse, product } from './rgbSpace.ts';

const TOP = 65535;
function oneOf(colour: readonly number[]): ReturnType<typeof createRaster> {
  const raster = createRaster(1, 1, 3, 16);
  colour.forEach((value, c) => (raster.planes[c][0] = Math.round(TOP * value)));
  return raster;
}
const toP3 = (colour: readonly number[], intent: Intent = 'relative'): number[] =>
  convertColours(oneOf(colour), SRGB_SPACE, DISPLAY_P3_SPACE, intent).planes.map(([value]) => value / TOP);
const toSrgb = (colour: readonly number[], intent: Intent = 'relative'): number[] =>
  convertColours(oneOf(colour), DISPLAY_P3_SPACE, SRGB_SPACE, intent).planes.map(([value]) => value / TOP);
const within = fc.double({ min: 0, max: 1, noNaN: true });

describe('colours in another space', () => {
  it('are those that W3C CSS Color 4 gives: sRGB red, green and blue in Display P3 (its conversion matrices, section 18)', () => {
    // lin_P3 = inverse(lin_P3_to_XYZ) * lin_sRGB_to_XYZ of its sample code, encoded; worked out from those matrices.
    const wanted: [number[], number[]][] = [
      [
        [1, 0, 0],
        [0.91749, 0.20029, 0.13856],
      ],
      [
        [0, 1, 0],
        [0.45845, 0.98526, 0.29831],
      ],
      [
        [0, 0, 1],
        [0, 0, 0.95958],
      ],
    ];
    for (const [from, to] of wanted) toP3(from).forEach((value, c) => expect(value).toBeCloseTo(to[c], 3));
  });

  it('have the colorants of the sRGB profile of the International Color Consortium (D50; from memory)', () => {
    const srgb = [
      [0.43607, 0.38515, 0.14307],
      [0.22249, 0.71687, 0.06061],
      [0.01392, 0.09708, 0.7141],
    ];
    srgb.forEach((row, i) => row.forEach((value, k) => expect(SRGB_SPACE.toXyz[i][k]).toBeCloseTo(value, 3)));
    const still = product(inverse(SRGB_SPACE.toXyz), SRGB_SPACE.toXyz);
    still.forEach((row, i) => row.forEach((value, k) => expect(value).toBeCloseTo(i === k ? 1 : 0, 9)));
  });

  it('are not drawn in where the other space shows them all', () => {
    fc.assert(
      fc.property(within, within, within, (red, green, blue) => {
        expect(toP3([red, green, blue], 'perceptual')).toEqual(toP3([red, green, blue]));
      }),
    );
  });

  it('come back from the wider space, and grey stays grey', () => {
    fc.assert(
      fc.property(within, within, within, (red, green, blue) => {
        const back = toSrgb(toP3([red, green, blue]));
        [red, green, blue].forEach((value, c) => expect(back[c]).toBeCloseTo(value, 2));
        for (const intent of ['relative', 'perceptual'] as const) {
          const grey = toSrgb([red, red, red], intent);
          grey.forEach((value) => expect(value).toBeCloseTo(red, 3));
        }
      }),
    );
  });

  it('that lie beyond the narrower space are cut, or drawn in and told apart', () => {
    const [strong, stronger] = [
      [0.1, 0.85, 0.1],
      [0.0, 0.85, 0.0],
    ];
    expect(toSrgb(strong)[0]).toBe(0);
    expect(toSrgb(stronger)[0]).toBe(0);
    expect(toSrgb(strong, 'perceptual')[0]).toBeGreaterThan(toSrgb(stronger, 'perceptual')[0] + 0.01);
  });

  it('become grey of their luminance', () => {
    const [grey] = convertToGrey(oneOf([0, 1, 0]), SRGB_SPACE).planes;
    // Y of sRGB green is 0.7169 in D50; encoded 0.8638.
    expect(grey[0] / TOP).toBeCloseTo(0.8638, 2);
  });
});
