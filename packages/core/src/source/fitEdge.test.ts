import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../raster/pixels.ts';
import { pictureOf } from '../testing/pictures.ts';
import { fitEdge } from './fitEdge.ts';
import { shiftForStroke } from './strokeSource.ts';

describe('an edge fit', () => {
  it('finds the shift at which edges meet, to a twentieth of a pixel, and says how far they still miss', () => {
    fc.assert(
      fc.property(
        fc.double({ min: -2.5, max: 2.5, noNaN: true }),
        fc.double({ min: -2.5, max: 2.5, noNaN: true }),
        (offX, offY) => {
          // The right half repeats the left one, moved by a fraction of a pixel and in another tone.
          const scene = (x: number, y: number): number =>
            0.5 + 0.2 * Math.tanh((x - 50 + 0.4 * (y - 40)) / 1.5) + 0.1 * Math.sin(y / 4 + x / 9);
          const picture = pictureOf(
            200,
            80,
            (x, y) => (x < 100 ? scene(x, y) : 0.85 * scene(x - 100 - offX, y - offY) + 0.05),
            { depth: 16 },
          );
          const reach = { target: { shape: 'disc' as const, x: 50, y: 40, r: 9 }, margin: 1, edge: 1 };
          const fit = fitEdge(reach, { dx: 100, dy: 0 }, pixelsOf(picture));
          expect(fit).not.toBeNull();
          expect(Math.abs((fit?.source.dx ?? 0) - 100 - offX)).toBeLessThan(0.05);
          expect(Math.abs((fit?.source.dy ?? 0) - offY)).toBeLessThan(0.05);
          expect(fit?.residual).toBeLessThan(0.1);
        },
      ),
      { numRuns: 12 },
    );
  });
});

describe('the source of a stroke', () => {
  const place = [80, 20] as const;
  it('keeps its offset, starts anew, or stays fixed, as the hand asks', () => {
    const first = { place, lastShift: null };
    expect(shiftForStroke('keeps its offset', first, [30, 30])).toEqual({ dx: 50, dy: -10 });
    const later = { place, lastShift: { dx: 50, dy: -10 } };
    expect(shiftForStroke('keeps its offset', later, [40, 60])).toEqual({ dx: 50, dy: -10 });
    expect(shiftForStroke('starts anew', later, [40, 60])).toEqual({ dx: 40, dy: -40 });
    expect(shiftForStroke('stays fixed', later, [40, 60])).toEqual({ dx: 40, dy: -40 });
  });
});
