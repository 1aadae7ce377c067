import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Raster } from '../../raster/raster.ts';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import { EXAMINE_DEFAULTS, examinePicture } from '../examinePicture.ts';
import { leastConfidence, sensitivityFor } from '../sensitivity.ts';
import { examineTiles } from '../tiles.ts';
import { keepStrongest } from './keepStrongest.ts';

const [WIDTH, HEIGHT] = [420, 320];
const SPOTS = [
  { x: 60, y: 50, r: 3, depth: 0.25 },
  { x: 150.5, y: 80.5, r: 6, depth: 0.15 },
  { x: 300, y: 70, r: 14, depth: 0.12 },
  { x: 90, y: 220, r: 9, depth: 0.2 },
  { x: 250, y: 200, r: 4, depth: 0.3 },
  { x: 380, y: 260, r: 20, depth: 0.15 },
];
const options = EXAMINE_DEFAULTS;
const sky = (x: number, y: number): number => 0.35 + 0.0008 * x + 0.0006 * y;

function spotted(sign: 1 | -1, depth: 8 | 16 = 8): Raster {
  return pictureOf(
    WIDTH,
    HEIGHT,
    (x, y) =>
      SPOTS.reduce((tone, s) => tone * (1 - sign * s.depth * speckAt(x, y, s.x, s.y, s.r)), sky(x, y)),
    { grain: 0.008, depth },
  );
}

describe('the finder of specks', () => {
  it.each([
    ['dark', 1, 8],
    ['bright', -1, 8],
    ['dark', 1, 16],
  ] as const)('finds %s specks of all sizes in a sky and nothing else', (polarity, sign, depth) => {
    const found = examinePicture(pixelsOf(spotted(sign, depth)), options, 'frame');
    expect(found).toHaveLength(SPOTS.length);
    for (const spot of SPOTS) {
      const hit = found.find((fault) => Math.hypot(fault.x - spot.x, fault.y - spot.y) < 0.25 * spot.r + 0.5);
      expect(hit?.polarity).toBe(polarity);
      expect(hit?.r).toBeGreaterThan(0.7 * spot.r);
      expect(hit?.r).toBeLessThan(1.4 * spot.r);
    }
  });

  it('takes a bright disc for a particle on a frame, and on a print only what is as bright as its paper for a hole', () => {
    const holes = [
      [80, 60, 2],
      [170, 250, 3],
      [240, 70, 2.5],
      [340, 210, 3.5],
    ] as const;
    const discs = [
      [120, 150, 11],
      [300, 130, 14],
    ] as const;
    const scene = pictureOf(
      WIDTH,
      HEIGHT,
      (x, y) => {
        const rim = Math.min(x, y, WIDTH - x, HEIGHT - y);
        const own = discs.reduce((tone, [cx, cy, r]) => tone + 0.16 * speckAt(x, y, cx, cy, r), sky(x, y));
        const isHole = holes.some(([cx, cy, r]) => Math.hypot(x - cx, y - cy) < r);
        return rim < 20 || isHole ? 0.9 : own;
      },
      { grain: 0.008 },
    );
    const foundOn = (nature: 'frame' | 'print') =>
      examinePicture(pixelsOf(scene), options, nature).filter(({ kind }) => kind === 'speck');
    const has = (
      nature: 'frame' | 'print',
      places: readonly (readonly [number, number, number])[],
    ): boolean[] =>
      places.map(([x, y, r]) => foundOn(nature).some((one) => Math.hypot(one.x - x, one.y - y) < r));
    expect(has('print', holes)).toEqual([true, true, true, true]);
    expect(has('print', discs)).toEqual([false, false]);
    expect(has('frame', discs)).toEqual([true, true]);
  });

  it('finds a speck on the border of two tiles once, whatever its size', () => {
    const [width, height] = [3600, 400];
    const [left] = examineTiles({ width, height, channels: 3, depth: 8 });
    const border = left.keep.width;
    expect(border).toBeLessThan(width);
    const spots = [
      { x: border - 6, y: 120, r: 58, depth: 0.2 },
      { x: border, y: 250, r: 4, depth: 0.25 },
      { x: border + 0.5, y: 330, r: 14, depth: 0.2 },
    ];
    const picture = pictureOf(
      width,
      height,
      (x, y) =>
        spots.reduce((tone, s) => tone * (1 - s.depth * speckAt(x, y, s.x, s.y, s.r)), sky(0.1 * x, y)),
      { grain: 0.008 },
    );
    const found = examinePicture(pixelsOf(picture), options, 'frame');
    for (const { x, y, r } of spots)
      expect(found.filter((fault) => Math.hypot(fault.x - x, fault.y - y) < 0.5 * r)).toHaveLength(1);
  });

  it('looks only for the polarity that is asked for', () => {
    expect(examinePicture(pixelsOf(spotted(1)), { ...options, polarities: ['bright'] })).toEqual([]);
  });

  it('is not taken in by an edge, a line or a slope', () => {
    const scene = pictureOf(
      WIDTH,
      HEIGHT,
      (x, y) => sky(x, y) - (y > 160 ? 0.2 : 0) - (Math.abs(x - 0.4 * y - 100) < 3 ? 0.25 : 0),
      { grain: 0.008 },
    );
    for (const nature of ['frame', 'print'] as const) {
      const found = examinePicture(pixelsOf(scene), options, nature);
      expect(found.filter(({ kind }) => kind === 'speck')).toEqual([]);
    }
  });

  it('says less at a lower sensitivity, and never something else', () => {
    const pixels = pixelsOf(spotted(1));
    const most = examinePicture(pixels, { ...options, sensitivity: 0.9 });
    const least = examinePicture(pixels, { ...options, sensitivity: 0.1 });
    expect(least.length).toBeLessThanOrEqual(most.length);
    for (const fault of least) expect(most).toContainEqual(fault);
    expect(leastConfidence(0)).toBeGreaterThan(leastConfidence(1));
  });

  it('is asked for by a sensitivity or by the confidence that it stands for', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (sensitivity) => {
        expect(sensitivityFor(leastConfidence(sensitivity))).toBeCloseTo(sensitivity, 9);
      }),
    );
  });

  it('gives coordinates of the whole picture from a part of it', () => {
    const shifted = pictureOf(2300, 260, (x, y) => sky(x / 5, y) * (1 - 0.3 * speckAt(x, y, 2047, 130, 8)), {
      grain: 0.006,
    });
    const found = examinePicture(pixelsOf(shifted), options);
    expect(found).toHaveLength(1);
    expect(found[0].x).toBeCloseTo(2047, 0);
  });

  it('lists what lies on top of one another once', () => {
    const finding = fc.record({
      x: fc.double({ min: 0, max: 300, noNaN: true }),
      y: fc.double({ min: 0, max: 300, noNaN: true }),
      r: fc.double({ min: 1, max: 30, noNaN: true }),
      confidence: fc.double({ min: 0, max: 1, noNaN: true }),
      fit: fc.double({ min: 0, max: 9, noNaN: true }),
      ...{ score: fc.constant(0), strength: fc.constant(0.2), softness: fc.constant(0.3) },
      ...{ kind: fc.constant('speck' as const), polarity: fc.constant('dark' as const) },
    });
    fc.assert(
      fc.property(fc.array(finding, { maxLength: 40 }), (findings) => {
        const kept = keepStrongest(findings);
        for (const [i, a] of kept.entries())
          for (const b of kept.slice(i + 1))
            expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeGreaterThanOrEqual(0.9 * Math.max(a.r, b.r));
      }),
    );
  });
});
