import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fence } from '../fence/fence.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Raster } from '../raster/raster.ts';
import { narrowWindow, wholeWindow } from '../raster/window.ts';
import { emptyRecipe } from '../recipe/recipe.ts';
import { renderRecipe } from '../recipe/render.ts';
import { pictureOf } from '../testing/pictures.ts';
import { applyFinish } from './applyFinish.ts';
import { autoBalance, autoLevels } from './autoFinish.ts';
import type { FinishStep } from './finishStep.ts';
import type { ColourStep } from './colour/colourStep.ts';
import type { CurveStep } from './curve/curveStep.ts';
import type { LevelsStep } from './levels/levelsStep.ts';
import { histogramOf, quantileOf } from './histogram.ts';
import { monotoneCurve } from './curve/monotoneCurve.ts';

const [WIDTH, HEIGHT] = [90, 150];
const PICTURE = pictureOf(WIDTH, HEIGHT, (x, y, c) => 0.2 + 0.5 * (x / WIDTH) * (1 - 0.2 * c) + 0.001 * y);
const BASE = { on: true, share: 1 } as const;
const levels = (more: Partial<LevelsStep> = {}): LevelsStep => ({
  ...{ ...BASE, id: 'l', method: 'levels', tones: [{ black: 0.1, white: 0.8, gamma: 1.4 }] },
  ...more,
});
const curve = (points: CurveStep['points']): CurveStep => ({ ...BASE, id: 'c', method: 'curve', points });
const colour = (more: Partial<ColourStep> = {}): ColourStep => ({
  ...{ ...BASE, id: 'w', method: 'colour', temperature: 0, tint: 0, saturation: 1 },
  ...more,
});
const finished = (steps: readonly FinishStep[], fences: readonly Fence[] = []): Raster =>
  applyFinish(wholeWindow(PICTURE), steps, fences);
const at = ({ planes, stride }: Raster, x: number, y: number): number[] =>
  planes.slice(0, 3).map((plane) => plane[y * stride + x]);

describe('the finish', () => {
  it('sets levels as they are defined: cut off, stretched, bent', () => {
    const before = at(PICTURE, 60, 70).map((value) => value / 255);
    const wanted = before.map((value) => Math.round(255 * Math.min(1, (value - 0.1) / 0.7) ** (1 / 1.4)));
    expect(at(finished([levels()]), 60, 70)).toEqual(wanted);
    const perChannel = levels({
      tones: [
        { black: 0, white: 1, gamma: 1 },
        { black: 0.2, white: 1, gamma: 1 },
        { black: 0, white: 1, gamma: 1 },
      ],
    });
    const [red, green, blue] = at(finished([perChannel]), 60, 70);
    expect([red, blue]).toEqual([at(PICTURE, 60, 70)[0], at(PICTURE, 60, 70)[2]]);
    expect(green).toBe(Math.round((255 * (before[1] - 0.2)) / 0.8));
  });

  it('leaves every value where its steps are neutral, off or faded out', () => {
    const neutral = [
      levels({ tones: [{ black: 0, white: 1, gamma: 1 }] }),
      curve([
        [0, 0],
        [0.4, 0.4],
        [1, 1],
      ]),
      colour(),
      { ...levels(), on: false },
      { ...levels(), share: 0 },
    ];
    expect(finished(neutral).planes).toEqual(PICTURE.planes);
  });

  it('is half of the way where a step is faded by half, and nothing outside of its zone', () => {
    const whole = at(finished([levels()]), 40, 30);
    const half = at(finished([levels({ share: 0.5 })]), 40, 30);
    at(PICTURE, 40, 30).forEach((value, c) =>
      expect(Math.abs(half[c] - (value + whole[c]) / 2)).toBeLessThan(1),
    );
    const zone: Fence = {
      ...{ id: 'sky', kind: 'zone', name: 'sky', edge: 0, on: true },
      area: {
        shape: 'outline',
        points: [
          [0, 0],
          [WIDTH, 0],
          [WIDTH, 40],
          [0, 40],
        ],
      },
    };
    const zoned = finished([levels({ zone: 'sky' })], [zone]);
    expect(at(zoned, 40, 30)).toEqual(whole);
    expect(at(zoned, 40, 60)).toEqual(at(PICTURE, 40, 60));
    // A zone that is switched off takes its step with it.
    expect(finished([levels({ zone: 'sky' })], [{ ...zone, on: false }]).planes).toEqual(PICTURE.planes);
  });

  it('gives the same pixels whatever part is asked for, and as a part of a recipe', () => {
    const steps = [levels(), colour({ temperature: 0.4, saturation: 1.5 })];
    const part = applyFinish(
      narrowWindow(wholeWindow(PICTURE), { left: 20, top: 30, width: 40, height: 50 }),
      steps,
      [],
    );
    expect(at(part, 10, 10)).toEqual(at(finished(steps), 30, 40));
    const rendered = cloneRaster(PICTURE);
    renderRecipe(rendered, { ...emptyRecipe({ width: WIDTH, height: HEIGHT }), finish: steps });
    expect(rendered.planes).toEqual(finished(steps).planes);
  });

  it('looks levels and curves up to the very values that it would work out', () => {
    const steps = [
      levels({ share: 0.6 }),
      curve([
        [0, 0.05],
        [0.4, 0.6],
        [1, 0.97],
      ]),
    ];
    const everywhere: Fence = {
      ...{ id: 'all', kind: 'zone', name: 'all', edge: 0, on: true },
      area: {
        shape: 'outline',
        points: [
          [-9, -9],
          [WIDTH + 9, -9],
          [WIDTH + 9, HEIGHT + 9],
          [-9, HEIGHT + 9],
        ],
      },
    };
    for (const depth of [8, 16] as const) {
      const picture = pictureOf(60, 50, (x, y, c) => 0.01 * x + 0.006 * y + 0.05 * c, { depth });
      const quick = applyFinish(wholeWindow(picture), steps, []);
      const slow = applyFinish(
        wholeWindow(picture),
        steps.map((step) => ({ ...step, zone: 'all' })),
        [everywhere],
      );
      expect(quick.planes).toEqual(slow.planes);
    }
  });

  it('takes all colour out at the luminance it had, and balances a cast away', () => {
    const [red, green, blue] = at(finished([colour({ saturation: 0 })]), 60, 70);
    expect(Math.max(red, green, blue) - Math.min(red, green, blue)).toBeLessThanOrEqual(1);
    const cast = pictureOf(40, 40, (_, __, c) => [0.7, 0.6, 0.45][c]);
    const balance = autoBalance(histogramOf(cast));
    expect(balance?.rule).toBe('grey world');
    if (!balance) throw new Error('No balance was found');
    const grey = at(applyFinish(wholeWindow(cast), [colour(balance)], []), 20, 20);
    expect(Math.max(...grey) - Math.min(...grey)).toBeLessThanOrEqual(2);
  });

  it('stretches a faded picture to its whole range, and a full one not at all', () => {
    const faded = pictureOf(100, 100, (x) => 0.3 + 0.4 * (x / 99));
    const [{ black, white }] = autoLevels(histogramOf(faded)).tones;
    expect(black).toBeCloseTo(0.3, 1);
    expect(white).toBeCloseTo(0.7, 1);
    const even = pictureOf(20, 20, () => 0.5);
    expect(autoLevels(histogramOf(even)).tones).toEqual([{ black: 0, white: 1, gamma: 1 }]);
  });
});

describe('a curve', () => {
  it('goes through its points and rises wherever they do', () => {
    const heights = fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 2, maxLength: 8 });
    fc.assert(
      fc.property(heights, (ys) => {
        const sorted = [...ys].sort((a, b) => a - b);
        const points = sorted.map((y, k): [number, number] => [k / (sorted.length - 1), y]);
        const bend = monotoneCurve(points);
        for (const [x, y] of points) expect(bend(x)).toBeCloseTo(y, 9);
        let last = -Infinity;
        for (let k = 0; k <= 200; k++) {
          const value = bend(k / 200);
          expect(value).toBeGreaterThanOrEqual(last - 1e-9);
          last = value;
        }
      }),
    );
  });

  it('of two points is the straight line between them', () => {
    const bend = monotoneCurve([
      [0.2, 0.1],
      [0.8, 0.9],
    ]);
    expect(bend(0.5)).toBeCloseTo(0.5, 9);
    expect(bend(0)).toBe(0.1);
    expect(bend(1)).toBe(0.9);
  });
});

describe('a histogram', () => {
  it('counts every pixel once in each channel, and what is cut off', () => {
    const { channels, count, clipped } = histogramOf(
      pictureOf(50, 40, (x) => (x < 10 ? 0 : x < 45 ? 0.5 : 1)),
    );
    for (const bins of channels) expect(bins.reduce((sum, one) => sum + one, 0)).toBe(count);
    expect(clipped).toEqual({ dark: [400, 400, 400], light: [200, 200, 200] });
    expect(quantileOf(channels[0], 0.5)).toBeCloseTo(0.5, 1);
  });
});
