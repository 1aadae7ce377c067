import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import { holdLuma } from '../ground/heldLuma.ts';
import { LUMA_STEPS, lumaOf, smoothLuma } from '../ground/lumaLevels.ts';
import { discTemplates } from './discTemplates.ts';
import { explainPlaces } from './explainPlaces.ts';
import { rimOf } from './rim.ts';
import { rimPeaks } from './rimPeaks.ts';

const [WIDTH, HEIGHT] = [160, 120];
const peaksOf = (tone: (x: number, y: number) => number, radius: number, grain = 0.004) => {
  const plane = lumaOf(pictureOf(WIDTH, HEIGHT, tone, { grain }));
  return holdLuma(smoothLuma(plane), (held) => rimPeaks(held, rimOf(radius, WIDTH))).map(({ at, step }) => ({
    x: (at % WIDTH) + 0.5,
    y: Math.floor(at / WIDTH) + 0.5,
    step,
  }));
};

describe('the rim of a disc', () => {
  it('answers at the centre of a dark or a bright one', () => {
    fc.assert(
      fc.property(
        fc.record({
          x: fc.integer({ min: 30, max: 130 }),
          y: fc.integer({ min: 30, max: 90 }),
          depth: fc.constantFrom(-0.25, -0.12, 0.12, 0.25),
        }),
        ({ x, y, depth }) => {
          const found = peaksOf((px, py) => 0.5 * (1 - depth * speckAt(px, py, x, y, 4)), 4);
          const hit = found.find((peak) => Math.hypot(peak.x - x, peak.y - y) < 1.6);
          expect(hit).toBeDefined();
          expect(Math.sign(hit?.step ?? 0)).toBe(Math.sign(depth));
        },
      ),
      { numRuns: 30 },
    );
  });

  it('answers with the step across it, each direction counted up to the usual one', () => {
    const tone = (px: number, py: number): number => 0.5 * (1 - 0.2 * speckAt(px, py, 81, 61, 4));
    const luma = lumaOf(pictureOf(WIDTH, HEIGHT, tone, { grain: 0.004 }));
    const plane = smoothLuma(luma);
    const rim = rimOf(4, WIDTH);
    const peaks = holdLuma(plane, (held) => rimPeaks(held, rim));
    expect(peaks.length).toBeGreaterThan(0);
    for (const { at, step, usual, strength } of peaks) {
      const steps = Array.from(rim.outer, (to, k) => plane.data[at + to] - plane.data[at + rim.inner[k]]);
      const mean = (values: number[]): number =>
        values.reduce((sum, value) => sum + value, 0) / values.length / usual;
      expect(step).toBeCloseTo(mean(steps.map((one) => Math.max(-usual, Math.min(usual, one)))), 6);
      expect(strength).toBeCloseTo(Math.sign(step) * mean(steps), 6);
    }
  });

  it('does not answer on a slope, an edge or a thin line', () => {
    const scene = (x: number, y: number): number =>
      0.3 + 0.002 * x + (y > 60 ? 0.2 : 0) - (Math.abs(x - 0.4 * y - 60) < 1 ? 0.15 : 0);
    expect(peaksOf(scene, 4, 0.001)).toEqual([]);
  });
});

describe('the disc that explains a place', () => {
  it('has its depth, its radius and its softness, and leaves nothing of it', () => {
    const templates = discTemplates(4);
    const middle = templates[2][1];
    const depth = 0.2;
    const shade = Math.exp(-depth);
    const tone = (x: number, y: number): number => {
      const away = Math.hypot(x - 80.5, y - 60.5) / middle.radius;
      const t = Math.min(1, Math.max(0, (1 + middle.softness - away) / (2 * middle.softness)));
      return 0.6 * shade ** (t * t * (3 - 2 * t));
    };
    const plane = lumaOf(pictureOf(WIDTH, HEIGHT, tone, { grain: 0, depth: 16 }));
    const [found] = holdLuma(plane, (held) =>
      explainPlaces(held, [{ at: 60 * WIDTH + 80, sign: 1 }], templates),
    );
    expect(found.template.radius).toBe(middle.radius);
    expect(found.template.softness).toBe(middle.softness);
    expect(found.depth / LUMA_STEPS).toBeCloseTo(depth, 1);
    expect(found.after).toBeLessThan(0.15 * found.before);
    expect(found.correlation).toBeGreaterThan(0.98);
  });

  it('takes little away where there is none', () => {
    const plane = lumaOf(pictureOf(WIDTH, HEIGHT, () => 0.5, { grain: 0.02 }));
    const place = { at: 60 * WIDTH + 80, sign: 1 } as const;
    const [found] = holdLuma(plane, (held) => explainPlaces(held, [place], discTemplates(4)));
    expect(found.after).toBeGreaterThan(0.85 * found.before);
  });
});
