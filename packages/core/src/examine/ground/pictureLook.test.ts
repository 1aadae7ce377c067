import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { viewRaster } from '../../raster/raster.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { measureTonalRange } from './tonalRange.ts';

const [WIDTH, HEIGHT] = [240, 160];

describe('the look of a whole picture', () => {
  it('has the tones of its margin and its shadows as ends, in either depth, in colour and in grey', () => {
    const tone = (x: number, y: number): number => {
      if (x < 20) return 0.9;
      return y > 140 ? 0.1 : 0.5;
    };
    for (const depth of [8, 16] as const)
      for (const channels of [1, 2, 3, 4]) {
        const { black, white } = measureTonalRange(
          pictureOf(WIDTH, HEIGHT, tone, { depth, channels }),
          'print',
        );
        expect(white).toBeCloseTo(0.9, 2);
        expect(black).toBeCloseTo(0.1, 2);
      }
  });

  it('is not led astray by a few outliers', () => {
    const speckled = pictureOf(WIDTH, HEIGHT, (x, y) => (Math.hypot(x - 90, y - 70) < 4 ? 1 : 0.4));
    expect(measureTonalRange(speckled, 'print').white).toBeCloseTo(0.4, 2);
  });

  it('of a frame tells nothing: its tones are those of its subject', () => {
    const { black, white } = measureTonalRange(
      pictureOf(WIDTH, HEIGHT, () => 0.4),
      'frame',
    );
    expect([black, white]).toEqual([0, 1]);
  });

  it('looks at the part of a larger raster that it is given, and at nothing beside it', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 100 }), fc.integer({ min: 1, max: 120 }), (left, width) => {
        const whole = pictureOf(WIDTH, HEIGHT, (x) => (x > left && x < left + width ? 0.5 : 1), {
          channels: 1,
        });
        const part = viewRaster(whole, { left, top: 10, width, height: 50 });
        expect(measureTonalRange(part, 'print').white).toBeCloseTo(0.5, 2);
      }),
    );
  });
});
