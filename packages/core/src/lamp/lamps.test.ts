import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster, createRaster, viewRaster } from '../raster/raster.ts';
import { pictureOf, speckAt } from '../testing/pictures.ts';
import { applyLamp, lampReach } from './applyLamp.ts';
import { lumaPlane } from '../raster/float.ts';
import { departure, departureAt } from './departure.ts';
import { departureHistogram } from './departureHistogram.ts';
import { maskOf } from '../target/maskTargets.ts';
import type { Lamp } from './lamp.ts';

const LAMPS: readonly Lamp[] = [
  { kind: 'plain' },
  { kind: 'negative' },
  { kind: 'contrast', strength: 2 },
  { kind: 'raking', direction: 0.7, strength: 2 },
  { kind: 'departure', scale: 6, least: 0.01 },
  {
    kind: 'wear',
    worn: [
      { area: maskOf(new Uint8Array(600).fill(1), { left: 110, top: 60, width: 30, height: 20 }), times: 2 },
    ],
  },
  // Large enough to be worked out on squares.
  { kind: 'departure', scale: 16, least: 0.01 },
];

const WHOLE = { level: 0, left: 0, top: 0 };

const scene = (depth: 8 | 16 = 8): Raster =>
  pictureOf(
    220,
    160,
    (x, y) => (0.3 + 0.001 * x) * (1 - 0.2 * speckAt(x, y, 80, 80, 6)) + 0.1 * speckAt(x, y, 150, 60, 5),
    { grain: 0.004, depth },
  );

const samples = (raster: Raster): number[] =>
  raster.planes.flatMap((plane) =>
    Array.from({ length: raster.height }, (_, y) => [
      ...plane.subarray(y * raster.stride, y * raster.stride + raster.width),
    ]).flat(),
  );

describe('a lamp', () => {
  it.each(LAMPS.map((lamp) => [lamp.kind, lamp] as const))(
    '%s leaves the picture itself alone',
    (_, lamp) => {
      const picture = scene();
      const before = samples(picture);
      applyLamp(picture, lamp, WHOLE);
      expect(samples(picture)).toEqual(before);
    },
  );

  it.each(LAMPS.map((lamp) => [lamp.kind, lamp] as const))(
    '%s shows a part of the picture as it shows the whole',
    (_, lamp) => {
      const picture = scene();
      const whole = applyLamp(picture, lamp, WHOLE);
      const reach = lampReach(lamp, 0);
      const [left, top, width, height] = [100, 70, 40, 30];
      const padded = viewRaster(picture, {
        left: left - reach,
        top: top - reach,
        width: width + 2 * reach,
        height: height + 2 * reach,
      });
      const part = applyLamp(cloneRaster(padded), lamp, { level: 0, left: left - reach, top: top - reach });
      // Running sums round in another order: one code at most.
      const a = samples(viewRaster(whole, { left, top, width, height }));
      const b = samples(viewRaster(part, { left: reach, top: reach, width, height }));
      a.forEach((value, i) => expect(Math.abs(value - b[i])).toBeLessThanOrEqual(1));
    },
  );

  it('turns over twice to what was there', () => {
    fc.assert(
      fc.property(fc.uint8Array({ minLength: 12, maxLength: 12 }), (values) => {
        const raster = createRaster(2, 2, 3, 8);
        values.forEach((value, i) => (raster.planes[i % 3][Math.floor(i / 3)] = value));
        const back = applyLamp(applyLamp(raster, { kind: 'negative' }, WHOLE), { kind: 'negative' }, WHOLE);
        expect(samples(back)).toEqual(samples(raster));
      }),
    );
  });

  it('of local contrast lifts a faint speck far above what the eye is given without it', () => {
    const faint = pictureOf(120, 120, (x, y) => 0.5 * (1 - 0.02 * speckAt(x, y, 60, 60, 6)), {
      grain: 0.001,
    });
    const lit = applyLamp(faint, { kind: 'contrast', strength: 2 }, WHOLE);
    const depth = (raster: Raster): number =>
      raster.planes[0][30 * raster.stride + 60] - raster.planes[0][60 * raster.stride + 60];
    expect(depth(lit)).toBeGreaterThan(4 * Math.max(1, depth(faint)));
  });

  it('that rakes shows a slope towards the light brighter and one away from it darker, and nothing where it is flat', () => {
    const ridge = pictureOf(60, 40, (x) => 0.4 + 0.2 * Math.max(0, 1 - Math.abs(x - 30) / 10), { grain: 0 });
    const lit = applyLamp(ridge, { kind: 'raking', direction: Math.PI, strength: 1 }, WHOLE).planes[0];
    const at = (x: number): number => lit[20 * 60 + x];
    expect(at(5)).toBe(128);
    expect(at(25)).toBeGreaterThan(140);
    expect(at(35)).toBeLessThan(115);
  });

  it('of departure draws whole lines around what is darker, dashes around what is brighter, nothing on a slope', () => {
    const slope = pictureOf(120, 100, (x, y) => 0.3 + 0.002 * x + 0.001 * y, { grain: 0 });
    const lamp = { kind: 'departure', scale: 6, least: 0.02 } as const;
    const marked = (raster: Raster, is: (value: number) => boolean): number =>
      samples(raster).filter(is).length;
    expect(marked(applyLamp(slope, lamp, WHOLE), (value) => value < 8 || value === 255)).toBe(0);
    const seen = applyLamp(scene(), lamp, WHOLE);
    expect(
      marked(viewRaster(seen, { left: 60, top: 60, width: 40, height: 40 }), (value) => value < 8),
    ).toBeGreaterThan(20);
    const bright = viewRaster(seen, { left: 135, top: 45, width: 30, height: 30 });
    expect(marked(bright, (value) => value === 255)).toBeGreaterThan(8);
  });

  it('shows 16 bit as it shows 8', () => {
    const [eight, sixteen] = [scene(8), scene(16)].map((raster) =>
      samples(applyLamp(raster, { kind: 'contrast', strength: 1 }, WHOLE)),
    );
    const apart = eight.map((value, i) => Math.abs(value - sixteen[i])).sort((a, b) => a - b);
    expect(apart[Math.floor(0.95 * apart.length)]).toBeLessThan(30);
  });
});

describe('a departure', () => {
  it('is on squares what it is at every place', () => {
    const luma = lumaPlane(
      pictureOf(240, 200, (x, y) => 0.4 + 0.1 * Math.sin(x / 23) + 0.2 * speckAt(x, y, 120, 90, 16), {
        depth: 16,
      }),
    );
    const whole = departure(luma, 16);
    for (const [left, top] of [
      [0, 0],
      [5, 3],
    ]) {
      const onSquares = departureAt(luma, 16, left, top);
      for (let y = 50; y < 150; y += 7)
        for (let x = 50; x < 190; x += 7)
          expect(Math.abs(onSquares.data[y * 240 + x] - whole.data[y * 240 + x])).toBeLessThan(0.006);
    }
  });
});

describe('the histogram of departures', () => {
  it('counts every pixel once', () => {
    const picture = scene();
    const { counts } = departureHistogram(picture, 5);
    expect(counts.reduce((sum, count) => sum + count, 0)).toBe(220 * 160);
  });
});
