import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { linearToSrgb } from './srgb.ts';
import type { Transfer } from './transfer.ts';
import { SRGB_TRANSFER, lightOf, sharedTransferTable, transferTable } from './transfer.ts';

/** sRGB's own curve as ICC.1:2022 writes it: parametricCurveType, function type 3. */
const AS_PARAMETERS: Transfer = {
  ...{ kind: 'parametric', g: 2.4, a: 1 / 1.055, b: 0.055 / 1.055, c: 1 / 12.92, d: 0.04045, e: 0, f: 0 },
};
const curves: fc.Arbitrary<Transfer> = fc.oneof(
  fc.constant(SRGB_TRANSFER),
  fc.double({ min: 0.5, max: 3, noNaN: true }).map((gamma): Transfer => ({ kind: 'gamma', gamma })),
  fc.constant(AS_PARAMETERS),
  fc
    .array(fc.double({ min: 0.001, max: 1, noNaN: true }), { minLength: 2, maxLength: 40 })
    .map((steps): Transfer => {
      const total = steps.reduce((sum, step) => sum + step, 0);
      let light = 0;
      return { kind: 'table', light: [0, ...steps.map((step) => (light += step / total))] };
    }),
);
const share = fc.double({ min: 0, max: 1, noNaN: true });

describe('a transfer curve', () => {
  it('of sRGB is the same by its name and by its parameters', () => {
    fc.assert(
      fc.property(share, (value) => {
        expect(lightOf(AS_PARAMETERS, value)).toBeCloseTo(lightOf(SRGB_TRANSFER, value), 6);
      }),
    );
  });

  it('of Adobe RGB (1998), a gamma of 563/256, gives middle grey the light it has there', () => {
    // Adobe RGB (1998) Color Image Encoding, version 2005-05, 4.3.4.2.
    expect(lightOf({ kind: 'gamma', gamma: 563 / 256 }, 0.5)).toBeCloseTo(0.5 ** 2.19921875, 9);
  });

  it('rises, and comes back from light for every code, at 8 and 16 bits', () => {
    fc.assert(
      fc.property(curves, fc.constantFrom(255, 65535), (transfer, top) => {
        const { light, encode } = transferTable(transfer, top);
        for (let code = 0; code <= top; code += Math.max(1, Math.floor(top / 300))) {
          if (code > 0) expect(light[code]).toBeGreaterThanOrEqual(light[code - 1]);
          // Steep curves have codes that differ by less than the numbers can tell.
          if (light[code] > 1e-6)
            expect(Math.abs(encode(light[code]) - code)).toBeLessThan(0.02 * (top / 255) + 0.02);
        }
      }),
      { numRuns: 25 },
    );
  });

  it('stays at its ends for light beyond them', () => {
    fc.assert(
      fc.property(curves, (transfer) => {
        const { encode, light } = transferTable(transfer, 255);
        expect(encode(light[0] - 1)).toBeCloseTo(0, 6);
        expect(encode(light[255] + 1)).toBeCloseTo(255, 6);
      }),
      { numRuns: 20 },
    );
  });

  it('that falls is refused', () => {
    expect(() => transferTable({ kind: 'table', light: [0, 0.6, 0.4, 1] }, 255)).toThrow('rise');
  });

  it('is worked out once for each curve and depth', () => {
    const gamma: Transfer = { kind: 'gamma', gamma: 1.8 };
    expect(sharedTransferTable({ ...gamma }, 255)).toBe(sharedTransferTable(gamma, 255));
    expect(sharedTransferTable(gamma, 65535)).not.toBe(sharedTransferTable(gamma, 255));
    expect(transferTable(SRGB_TRANSFER, 255).encode(0.18)).toBeCloseTo(255 * linearToSrgb(0.18), 6);
  });
});
