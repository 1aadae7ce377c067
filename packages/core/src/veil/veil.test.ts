import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { penumbra, penumbraFast, penumbraSlope } from './penumbra.ts';
import type { Veil } from './veil.ts';
import { borderOf, veilBounds, veilField } from './veil.ts';

const veils: fc.Arbitrary<Veil> = fc
  .record({
    x: fc.double({ min: 5, max: 40, noNaN: true }),
    y: fc.double({ min: 5, max: 40, noNaN: true }),
    r: fc.double({ min: 1, max: 12, noNaN: true }),
    softness: fc.double({ min: 0, max: 1, noNaN: true }),
    stretch: fc.double({ min: 1, max: 1.5, noNaN: true }),
    angle: fc.double({ min: 0, max: Math.PI, noNaN: true }),
    depth: fc.double({ min: 0.05, max: 1, noNaN: true }),
  })
  .map((veil) => ({ kind: 'disc' as const, light: null, ...veil }));
const sum = (field: Float32Array): number => field.reduce((total, value) => total + value, 0);

describe('the penumbra of a round opening', () => {
  it('is the area of a circular segment over that of the circle, by numbers', () => {
    // The chord at `t` cuts the unit circle: the share of its area that lies before the chord, summed up in strips.
    for (const t of [-0.9, -0.5, -0.1, 0, 0.3, 0.7, 0.95]) {
      const strips = 20_000;
      let area = 0;
      for (let k = 0; k < strips; k++) {
        const x = -1 + ((k + 0.5) * (t + 1)) / strips;
        area += (2 * Math.sqrt(1 - x * x) * (t + 1)) / strips;
      }
      expect(penumbra(t)).toBeCloseTo(area / Math.PI, 5);
    }
  });

  it('rises from 0 to 1, the same way from both ends, and its slope is its own', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -1.2, max: 1.2, noNaN: true }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (t, step) => {
          expect(penumbra(t + step)).toBeGreaterThanOrEqual(penumbra(t));
          expect(penumbra(t) + penumbra(-t)).toBeCloseTo(1, 9);
          expect(penumbraFast(t)).toBeCloseTo(penumbra(t), 4);
          const h = 1e-5;
          if (Math.abs(t) < 0.99)
            expect(penumbraSlope(t)).toBeCloseTo((penumbra(t + h) - penumbra(t - h)) / (2 * h), 3);
        },
      ),
    );
  });
});

describe('a veil', () => {
  it('lies within its bounds, is as deep as it says in its middle, and nowhere deeper', () => {
    fc.assert(
      fc.property(veils, (veil) => {
        const bounds = veilBounds(veil);
        const around = {
          left: bounds.left - 4,
          top: bounds.top - 4,
          width: bounds.width + 8,
          height: bounds.height + 8,
        };
        expect(sum(veilField(veil, around))).toBeCloseTo(sum(veilField(veil, bounds)), 3);
        const field = veilField(veil, bounds);
        expect(Math.max(...field)).toBeLessThanOrEqual(veil.depth + 1e-6);
        if (borderOf(veil.softness, veil.r) < 0.6 && veil.r > 3)
          expect(Math.max(...field)).toBeCloseTo(veil.depth, 4);
      }),
      { numRuns: 60 },
    );
  });

  it('is the same seen from any window', () => {
    fc.assert(
      fc.property(veils, fc.integer({ min: -3, max: 3 }), fc.integer({ min: -3, max: 3 }), (veil, dx, dy) => {
        const bounds = veilBounds(veil);
        const field = veilField(veil, bounds);
        const [cx, cy] = [Math.floor(bounds.width / 2), Math.floor(bounds.height / 2)];
        const [one] = veilField(veil, { left: bounds.left + cx, top: bounds.top + cy, width: 1, height: 1 });
        expect(field[cy * bounds.width + cx]).toBeCloseTo(one, 6);
        const moved = { ...veil, x: veil.x + dx, y: veil.y + dy };
        const there = veilField(moved, { ...bounds, left: bounds.left + dx, top: bounds.top + dy });
        expect(Math.max(...field.map((value, i) => Math.abs(value - there[i])))).toBeLessThan(1e-4);
      }),
      { numRuns: 40 },
    );
  });

  it('of a round speck takes away as much light as its area and depth, however soft it is', () => {
    for (const softness of [0, 0.2, 0.5]) {
      const veil: Veil = {
        ...{ kind: 'disc', x: 40, y: 40, r: 15, softness, stretch: 1, angle: 0, depth: 0.4, light: null },
      };
      const disc = Math.PI * 15 ** 2 * 0.4;
      // A soft border moves a little more light outwards than inwards: the ring is longer there.
      expect(sum(veilField(veil, veilBounds(veil))) / disc).toBeGreaterThan(0.99);
      expect(sum(veilField(veil, veilBounds(veil))) / disc).toBeLessThan(1 + 0.3 * softness ** 2 + 0.01);
    }
  });

  it('is the same after half a turn', () => {
    fc.assert(
      fc.property(veils, (veil) => {
        const bounds = veilBounds(veil);
        const turned = veilField({ ...veil, angle: veil.angle + Math.PI }, bounds);
        expect(
          Math.max(...veilField(veil, bounds).map((value, i) => Math.abs(value - turned[i]))),
        ).toBeLessThan(1e-4);
      }),
      { numRuns: 30 },
    );
  });
});
