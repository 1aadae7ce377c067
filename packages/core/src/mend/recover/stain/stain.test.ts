import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { gaussian } from '../../../random/gaussian.ts';
import { mulberry } from '../../../random/mulberry.ts';
import { pixelsOf } from '../../../raster/pixels.ts';
import type { Raster } from '../../../raster/raster.ts';
import { cloneRaster } from '../../../raster/raster.ts';
import { linearToSrgb, srgbToLinear } from '../../../light/srgb.ts';
import type { Point } from '../../../target/target.ts';
import { distanceToOutline } from '../../../target/targetDistance.ts';
import { pictureOf } from '../../../testing/pictures.ts';
import { applyMend } from '../../applyMend.ts';
import { canvasOf } from '../../canvas.ts';
import { layPatch } from '../../../raster/patch.ts';
import { proposeMend } from '../../proposeMend.ts';
import { wholeWindow } from '../../../raster/window.ts';
import { depthInside } from './depthInside.ts';
import { profileFitter } from './fitProfile.ts';
import { fitStain } from './fitStain.ts';
import { densityAt } from './stain.ts';

const SIZE = 240;
const WHOLE = { left: 0, top: 0, width: SIZE, height: SIZE };

/** A border that wanders around the middle. */
const borderOf = (radius: number, wander: number): Point[] =>
  Array.from({ length: 180 }, (_, k): Point => {
    const angle = (2 * Math.PI * k) / 180;
    const r = radius * (1 + wander * Math.sin(3 * angle + 1) + (wander / 2) * Math.cos(7 * angle));
    return [SIZE / 2 + r * Math.cos(angle), SIZE / 2 + r * Math.sin(angle)];
  });

/** A gradient, a horizon and a weave, with grain. */
const clean = pictureOf(
  SIZE,
  SIZE,
  (x, y, c) => 0.45 + 0.0006 * x + (y > 130 ? -0.12 : 0) + 0.04 * Math.sin(x / 5 + c) * Math.sin(y / 7),
  { grain: 0.012 },
);

/** What is left of the light so deep inside: half at the rim, three quarters in the middle. */
const leftAt = (depth: number): number =>
  1 - Math.min(1, Math.max(0, (depth + 1) / 2)) * (0.26 + 0.22 * Math.exp(-((depth / 7) ** 2)));

function stained(border: readonly Point[]): Raster {
  const seen = cloneRaster(clean);
  const depth = depthInside(border, WHOLE);
  for (const plane of seen.planes)
    for (let i = 0; i < SIZE * SIZE; i++)
      plane[i] = Math.round(255 * linearToSrgb(srgbToLinear(plane[i] / 255) * leftAt(depth[i])));
  return seen;
}

/** Mean difference of two pictures where a border lies within some pixels, in code values. */
function meanOff(a: Raster, b: Raster, depth: Float32Array, [from, to]: readonly [number, number]): number {
  let [sum, count] = [0, 0];
  depth.forEach((deep, i) => {
    if (deep < from || deep > to) return;
    sum += Math.abs(a.planes[0][i] - b.planes[0][i]);
    count++;
  });
  return sum / count;
}

describe('the depth inside a border', () => {
  it('is its distance: exact beside it, to half a pixel farther away', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 20, max: 90 }),
        fc.double({ min: 0, max: 0.2, noNaN: true }),
        fc.integer({ min: 0, max: SIZE * SIZE - 1 }),
        (radius, wander, at) => {
          const points = borderOf(radius, wander);
          const deep = depthInside(points, WHOLE)[at];
          const [x, y] = [(at % SIZE) + 0.5, Math.floor(at / SIZE) + 0.5];
          const outside = distanceToOutline(x, y, { shape: 'outline', points });
          expect(deep > 0).toBe(outside === 0);
          if (deep < 0) expect(-deep).toBeCloseTo(outside, outside < 8 ? 3 : -0.31);
        },
      ),
      { numRuns: 60 },
    );
  });
});

describe('a profile', () => {
  it('is found though the subject has edges of its own', () => {
    const depth = depthInside(borderOf(60, 0.1), WHOLE);
    const uniform = mulberry(5);
    const depths = [-2, 0, 2, 5, 9, 15, 25];
    const density = [0, 0.2, 0.5, 0.4, 0.3, 0.25, 0.25];
    const log = Float32Array.from(depth, (deep, i) => {
      const own = (i % SIZE > 100 ? 0.8 : 0) + (Math.floor(i / SIZE) > 140 ? -1.1 : 0);
      return own + 0.02 * gaussian(uniform) - densityAt(depths, density, deep);
    });
    const found = profileFitter(depth, SIZE, depths).fit(log, 14);
    density.forEach((value, k) => expect(found[k]).toBeCloseTo(value, 1.5));
  });
});

describe('a stain that was outlined roughly', () => {
  const border = borderOf(60, 0.12);
  const seen = stained(border);
  const depth = depthInside(border, WHOLE);
  /** As a hand draws: four pixels too far out, to and fro. */
  const rough = border
    .filter((_, k) => k % 5 === 0)
    .map(([x, y], k): Point => {
      const away = 1 + (4 + 3 * Math.sin(k)) / 60;
      return [SIZE / 2 + away * (x - SIZE / 2), SIZE / 2 + away * (y - SIZE / 2)];
    });

  it('has its own border found to within a pixel', () => {
    const fitted = fitStain({ shape: 'outline', points: rough }, 'dark', pixelsOf(seen));
    const found = fitted ? depthInside(fitted.target.points, WHOLE) : new Float32Array(SIZE * SIZE);
    const off = [...depth].flatMap((deep, i) => (Math.abs(deep) < 1 ? [Math.abs(found[i] - deep)] : []));
    off.sort((a, b) => a - b);
    expect(off[Math.floor(0.9 * off.length)]).toBeLessThan(1);
  });

  it('comes off with its rim, and nothing is left around it', () => {
    const pixels = pixelsOf(seen);
    const wish = { id: 's', margin: 0, kind: 'stain', target: { shape: 'outline', points: rough } } as const;
    const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixels);
    const mended = cloneRaster(seen);
    layPatch(applyMend(mend, canvasOf(pixels, [])), wholeWindow(mended));
    const off = (picture: Raster, place: readonly [number, number]): number =>
      meanOff(picture, clean, depth, place);
    for (const place of [
      [-2, 8],
      [8, 99],
    ] as const) {
      expect(off(seen, place)).toBeGreaterThan(15);
      expect(off(mended, place)).toBeLessThan(off(seen, place) / 4);
    }
    expect(off(mended, [-20, -3])).toBeLessThan(0.5);
  });

  it('is none where there is no room for one', () => {
    const tiny: Point[] = [
      [5, 5],
      [7, 5],
      [6, 7],
    ];
    expect(fitStain({ shape: 'outline', points: tiny }, undefined, pixelsOf(seen))).toBeNull();
  });
});
