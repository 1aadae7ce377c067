import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Raster } from '../../raster/raster.ts';
import { createRaster } from '../../raster/raster.ts';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import { wholeWindow } from '../../raster/window.ts';
import { holdGround } from '../ground/heldGround.ts';
import { measureTonalRange } from '../ground/tonalRange.ts';
import type { Candidate } from './candidates.ts';
import type { MeasuredSpeck } from './speckTraits.ts';
import { SPECK_TRAITS, measureSpecks } from './speckTraits.ts';

const SIDE = 160;
const GRAIN = 0.02;
const MIDDLE = SIDE / 2 + 0.5;

const candidate = (polarity: Candidate['polarity'], x = MIDDLE, y = MIDDLE): Candidate => ({
  ...{ level: 0, x, y, radius: 4, polarity, usual: 100 },
});

const allMeasured = (raster: Raster, candidates: readonly Candidate[]): MeasuredSpeck[] =>
  holdGround(wholeWindow(raster), { beyond: 0, levels: 1 }, (ground) =>
    measureSpecks(candidates, ground, measureTonalRange(raster, 'print')),
  );

const measured = (raster: Raster, one: Candidate): MeasuredSpeck => allMeasured(raster, [one])[0];

const traitOf = ({ traits }: MeasuredSpeck, name: (typeof SPECK_TRAITS)[number]): number =>
  traits[SPECK_TRAITS.indexOf(name)];

/** A speck in the middle of even ground, darker or brighter by a share. */
const spotted = (tone: number, by: number, seed: number): Raster =>
  pictureOf(SIDE, SIDE, (x, y) => tone * (1 + by * speckAt(x, y, MIDDLE, MIDDLE, 4)), {
    ...{ channels: 1, depth: 16, grain: GRAIN, seed },
  });

/** Every pixel as the mean of the four around its corner: grain as soft as a scanner's. */
function softened({ width, height, planes }: Raster): Raster {
  const out = createRaster(width, height, 1, 16);
  const [plane] = planes;
  for (let y = 0; y < height - 1; y++)
    for (let x = 0; x < width - 1; x++) {
      const i = y * width + x;
      out.planes[0][i] = (plane[i] + plane[i + 1] + plane[i + width] + plane[i + width + 1]) >> 2;
    }
  return out;
}

/** Rows become columns. */
function transposed({ width, height, planes }: Raster): Raster {
  const out = createRaster(height, width, 1, 16);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) out.planes[0][x * height + y] = planes[0][y * width + x];
  return out;
}

const seeds = fc.integer({ min: 1, max: 10_000 });

describe('what a candidate looks like', () => {
  it('tells grain of pixels that know nothing of one another from grain that optics have spread', () => {
    // Of white noise a step is the difference of two values, and what two steps differ by has 1, 4 and 1 parts of its
    // variance: the root of 6 over the root of 2. Of the means of neighbours these are the root of 1 over that of 1/2.
    const places = Array.from({ length: 16 }, (_, k) =>
      candidate('dark', 30.5 + 32 * (k % 4), 30.5 + 32 * (k >> 2)),
    );
    const sharpness = (raster: Raster): number =>
      allMeasured(raster, places).reduce(
        (sum, speck) => sum + traitOf(speck, 'grainSharpness') / places.length,
        0,
      );
    fc.assert(
      fc.property(seeds, (seed) => {
        const sharp = pictureOf(SIDE, SIDE, () => 0.5, { channels: 1, depth: 16, grain: GRAIN, seed });
        expect(sharpness(sharp) / Math.sqrt(3)).toBeCloseTo(1, 1);
        expect(sharpness(softened(sharp)) / Math.SQRT2).toBeCloseTo(1, 1);
      }),
      { numRuns: 20 },
    );
  });

  it('is the same whether the picture lies or stands', () => {
    fc.assert(
      fc.property(seeds, fc.constantFrom('dark' as const, 'bright' as const), (seed, polarity) => {
        const raster = spotted(0.5, polarity === 'dark' ? -0.3 : 0.3, seed);
        const lying = measured(raster, candidate(polarity, MIDDLE + 1, MIDDLE));
        const standing = measured(transposed(raster), candidate(polarity, MIDDLE, MIDDLE + 1));
        SPECK_TRAITS.forEach((name, k) => {
          expect([name, standing.traits[k]]).toEqual([name, expect.closeTo(lying.traits[k], 3)]);
        });
      }),
      { numRuns: 25 },
    );
  });

  it('says how deep it is and how wide, and of which polarity, in light and in shade', () => {
    for (const tone of [0.25, 0.5, 0.6])
      for (const by of [-0.35, 0.35]) {
        const polarity = by < 0 ? 'dark' : 'bright';
        const speck = measured(spotted(tone, by, 3), candidate(polarity));
        expect(traitOf(speck, 'polarity')).toBe(by < 0 ? 1 : -1);
        expect(speck.r).toBeGreaterThan(3);
        expect(speck.r).toBeLessThan(5.5);
        const depth = traitOf(speck, 'depth') / Math.abs(Math.log(1 + by));
        expect(depth).toBeGreaterThan(0.7);
        expect(depth).toBeLessThan(1.15);
        expect(traitOf(speck, 'evidence')).toBeGreaterThan(1);
      }
  });
});
