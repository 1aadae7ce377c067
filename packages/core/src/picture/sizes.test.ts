import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { shownValue, storedValue } from '../describe/field.ts';
import { deliveredSides } from './deliveredSides.ts';
import { PRINT_PPI, printSize } from './printSize.ts';
import { WRITTEN_FORMAT_NAMES, describeFormat } from './writtenFormats.ts';

const side = fc.integer({ min: 1, max: 20_000 });
const pictures = fc.record({
  width: side,
  height: side,
  density: fc.option(fc.integer({ min: 72, max: 1200 })),
});

describe('the sides of a delivery', () => {
  it('are those of the picture where it is delivered in full', () => {
    fc.assert(
      fc.property(pictures, (picture) => {
        const { width, height, scale, density } = deliveredSides(picture, { kind: 'full' });
        expect([width, height, scale]).toEqual([picture.width, picture.height, 1]);
        expect(density ?? null).toBe(picture.density);
      }),
    );
  });

  it('have the longer side that was asked for, the shape of the picture, and its size on paper', () => {
    fc.assert(
      fc.property(pictures, fc.integer({ min: 16, max: 9000 }), (picture, longest) => {
        const { width, height, scale, density } = deliveredSides(picture, { kind: 'pixels', longest });
        expect(Math.max(width, height)).toBe(longest);
        expect(Math.abs(width - picture.width * scale)).toBeLessThanOrEqual(1);
        expect(Math.abs(height - picture.height * scale)).toBeLessThanOrEqual(1);
        if (density && picture.density) {
          const [before, after] = [
            printSize(picture, picture.density),
            printSize({ width, height }, density),
          ];
          expect(Math.abs(after.width - before.width)).toBeLessThan(1 / density + 1e-9);
        }
      }),
    );
  });

  it('fit the paper, and touch it on one side', () => {
    const paper = { kind: 'paper', longer: 10, shorter: 8, ppi: PRINT_PPI[0] } as const;
    fc.assert(
      fc.property(pictures, (picture) => {
        const { width, height, density } = deliveredSides(picture, paper);
        expect(density).toBe(300);
        const [longer, shorter] = [Math.max(width, height), Math.min(width, height)];
        expect(longer).toBeLessThanOrEqual(3001);
        expect(shorter).toBeLessThanOrEqual(2401);
        expect(longer >= 2999 || shorter >= 2399).toBe(true);
      }),
    );
  });
});

describe('a format that is written', () => {
  it('is known by endings that no other has', () => {
    const endings = WRITTEN_FORMAT_NAMES.flatMap((name) => describeFormat(name).endings);
    expect(new Set(endings).size).toBe(endings.length);
  });
});

describe('a number that a person sets', () => {
  it('comes back as it was stored, to the step of its slider', () => {
    const shown = fc.record({
      as: fc.constantFrom('as stored' as const, 'percent' as const, 'levels' as const, 'degrees' as const),
      least: fc.constant(0),
      most: fc.constant(500),
      step: fc.constantFrom(1, 0.1, 0.01),
    });
    fc.assert(
      fc.property(shown, fc.double({ min: 0, max: 1, noNaN: true }), (field, stored) => {
        const seen = shownValue(field, stored);
        const back = storedValue(field, seen) ?? NaN;
        expect(shownValue(field, back)).toBe(seen);
        expect(
          Math.abs(shownValue({ ...field, step: 1e-9 }, back) - shownValue({ ...field, step: 1e-9 }, stored)),
        ).toBeLessThanOrEqual(field.step / 2 + 1e-9);
      }),
    );
  });

  it('stands for none at the one value that says so', () => {
    const field = { as: 'percent', least: 0, most: 100, step: 1, none: 0 } as const;
    expect(shownValue(field, null)).toBe(0);
    expect(storedValue(field, 0)).toBeNull();
    expect(storedValue(field, 50)).toBe(0.5);
  });
});
