import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { labOf } from './lab.ts';
import { exposed, labOfPlanes, movedLab } from './labPlanes.ts';

const UNMOVED = { lightness: { times: 1, plus: 0 }, turn: [1, 0, 0, 1], plus: [0, 0] } as const;

/** Planes of light of any length: what is worked on four at a time must also end right. */
const lights = fc
  .array(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0, max: 1, noNaN: true }))), {
    minLength: 1,
    maxLength: 23,
  })
  .map((pixels) => [0, 1, 2].map((c) => Float32Array.from(pixels, (pixel) => pixel[c])));

describe('L*a*b* of whole planes', () => {
  it('is that of each pixel', () => {
    fc.assert(
      fc.property(lights, (light) => {
        const planes = labOfPlanes(light);
        light[0].forEach((_, i) => {
          const lab = labOf(light[0][i], light[1][i], light[2][i]);
          lab.forEach((value, c) => expect(Math.abs(planes[c][i] - value)).toBeLessThan(0.02));
        });
      }),
    );
  });

  it('that is not moved is the same light', () => {
    fc.assert(
      fc.property(lights, (light) => {
        const back = movedLab(light, UNMOVED);
        back.forEach((plane, c) =>
          plane.forEach((value, i) => expect(Math.abs(value - light[c][i])).toBeLessThan(2e-4)),
        );
      }),
    );
  });

  it('is moved as it is said: lightness, then hue, then a shift, pixel by pixel', () => {
    const move = fc.record({
      times: fc.double({ min: 0.5, max: 1.2, noNaN: true }),
      angle: fc.double({ min: 0, max: 6, noNaN: true }),
      plus: fc.tuple(
        fc.double({ min: -5, max: 5, noNaN: true }),
        fc.double({ min: -5, max: 5, noNaN: true }),
      ),
      added: fc.double({ min: 0, max: 4, noNaN: true }),
    });
    // Colours away from black, where a step of light is a large step of lightness.
    const greys = fc.array(fc.double({ min: 0.1, max: 0.6, noNaN: true }), { minLength: 1, maxLength: 9 });
    fc.assert(
      fc.property(greys, move, (values, { times, angle, plus, added }) => {
        const light = [1, 0.9, 0.8].map((share) => Float32Array.from(values, (value) => share * value));
        const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
        const moved = labOfPlanes(
          movedLab(light, {
            lightness: { times, plus: 0 },
            turn: [cos, -sin, sin, cos],
            plus,
            added: new Float32Array(values.length).fill(added),
          }),
        );
        labOfPlanes(light)[0].forEach((_, i) => {
          const [lightness, a, b] = labOf(light[0][i], light[1][i], light[2][i]);
          const wanted = [
            Math.max(0, times * lightness + added),
            cos * a - sin * b + plus[0],
            sin * a + cos * b + plus[1],
          ];
          wanted.forEach((value, c) => expect(Math.abs(moved[c][i] - value)).toBeLessThan(0.1));
        });
      }),
    );
  });
});

describe('exposure', () => {
  it('in stops is light times two to their power, and back again', () => {
    fc.assert(
      fc.property(lights, fc.double({ min: -3, max: 3, noNaN: true }), (light, stops) => {
        const brighter = exposed(light, stops, 'all');
        brighter.forEach((plane, c) =>
          plane.forEach((value, i) =>
            expect(Math.abs(value - light[c][i] * 2 ** stops)).toBeLessThan(1e-4 * 2 ** stops),
          ),
        );
      }),
    );
  });

  it('of a range moves the light that belongs to it most', () => {
    const light = [0, 1, 2].map(() => Float32Array.of(0.01, 0.18, 0.9));
    const stopsOf = (range: 'shadows' | 'midtones' | 'highlights'): number[] =>
      [...exposed(light, 1, range)[0]].map((value, i) => Math.log2(value / light[0][i]));
    const [shadows, midtones, highlights] = [stopsOf('shadows'), stopsOf('midtones'), stopsOf('highlights')];
    expect(shadows.indexOf(Math.max(...shadows))).toBe(0);
    expect(midtones.indexOf(Math.max(...midtones))).toBe(1);
    expect(highlights.indexOf(Math.max(...highlights))).toBe(2);
    for (const stops of [...shadows, ...midtones, ...highlights]) {
      expect(stops).toBeGreaterThanOrEqual(-1e-4);
      expect(stops).toBeLessThanOrEqual(1 + 1e-4);
    }
  });
});
