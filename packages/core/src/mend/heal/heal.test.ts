import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { pixelsOf } from '../../raster/pixels.ts';
import { canvasOf } from '../canvas.ts';
import type { Raster } from '../../raster/raster.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { wholeWindow } from '../../raster/window.ts';
import { textureStrength } from '../../measure/texture.ts';
import { lumaPlane } from '../../raster/float.ts';
import { pictureOf, speckAt } from '../../testing/pictures.ts';
import type { HealMend } from './healMend.ts';
import { applyMend } from '../applyMend.ts';
import { layPatch } from '../../raster/patch.ts';
import { proposeMends } from '../run/runMends.ts';
import { heal, healReads } from './heal.ts';
import { membrane } from './membrane.ts';

const mendAt = (
  x: number,
  y: number,
  r: number,
  source: HealMend['source'],
  more: Partial<HealMend> = {},
): HealMend => ({
  id: 'm',
  method: 'heal',
  target: { shape: 'disc', x, y, r },
  margin: 2,
  edge: 1.5,
  share: 1,
  on: true,
  source,
  ...more,
});

function healed(picture: Raster, mend: HealMend): Raster {
  const copy = cloneRaster(picture);
  layPatch(applyMend(mend, canvasOf(pixelsOf(copy))), wholeWindow(copy));
  return copy;
}

function worstDifference(a: Raster, b: Raster): number {
  let worst = 0;
  for (let c = 0; c < a.planes.length; c++)
    for (let i = 0; i < a.planes[c].length; i++)
      worst = Math.max(worst, Math.abs(a.planes[c][i] - b.planes[c][i]));
  return worst;
}

describe('the membrane', () => {
  it('stays between the known values and meets them', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 3, max: 40 }),
        fc.integer({ min: 3, max: 40 }),
        fc.nat(),
        (width, height, seed) => {
          const known = new Float32Array(width * height);
          const weight = new Float32Array(width * height);
          for (let i = 0; i < known.length; i++) {
            const isRim =
              i < width || i >= known.length - width || i % width === 0 || i % width === width - 1;
            weight[i] = isRim ? 1 : 0;
            known[i] = isRim ? 10 + ((seed + i) % 3) : 999;
          }
          for (const value of membrane([known], weight, width, height)[0]) {
            expect(value).toBeGreaterThanOrEqual(9.99);
            expect(value).toBeLessThanOrEqual(12.01);
          }
        },
      ),
    );
  });

  it('carries a slope across a hole', () => {
    const [width, height] = [60, 60];
    const inHole = (i: number): boolean => Math.hypot((i % width) - 30, Math.floor(i / width) - 30) < 22;
    const slope = Float32Array.from(
      { length: width * height },
      (_, i) => (i % width) * 2 + Math.floor(i / width),
    );
    const weight = slope.map((_, i) => (inHole(i) ? 0 : 1));
    const surface = membrane([slope.map((v, i) => (inHole(i) ? 0 : v))], weight, width, height)[0];
    for (let i = 0; i < slope.length; i++)
      if (inHole(i)) expect(Math.abs(surface[i] - slope[i])).toBeLessThan(3);
  });
});

describe('heal', () => {
  const sky = (depth: 8 | 16) =>
    pictureOf(160, 120, (x, y, c) => 0.35 + 0.002 * x + 0.001 * y + 0.05 * c, { depth });
  const dusty = (depth: 8 | 16) =>
    pictureOf(
      160,
      120,
      (x, y, c) => (0.35 + 0.002 * x + 0.001 * y + 0.05 * c) * (1 - 0.4 * speckAt(x, y, 70, 60, 8)),
      { depth },
    );

  it('takes a speck out of a sky so that no eye and hardly a code tells', () => {
    const mended = healed(dusty(8), mendAt(70, 60, 10, { dx: 40, dy: 5 }));
    expect(worstDifference(mended, sky(8))).toBeLessThanOrEqual(2);
  });

  it('works at the full depth of a 16-bit scan', () => {
    const mended = healed(dusty(16), mendAt(70, 60, 10, { dx: 40, dy: 5 }));
    expect(worstDifference(mended, sky(16))).toBeLessThan(257 * 0.75);
    expect(new Set(mended.planes[0].map((v) => v % 257)).size).toBeGreaterThan(20);
  });

  it('changes not one value outside its footprint, wherever it lies', () => {
    const picture = dusty(8);
    fc.assert(
      fc.property(
        fc.double({ min: -5, max: 165, noNaN: true }),
        fc.double({ min: -5, max: 125, noNaN: true }),
        fc.double({ min: 0.5, max: 20, noNaN: true }),
        fc.integer({ min: -60, max: 60 }),
        fc.integer({ min: -60, max: 60 }),
        (x, y, r, dx, dy) => {
          const mended = healed(picture, mendAt(x, y, r, { dx, dy }));
          let changed = 0;
          for (let i = 0; i < 160 * 120; i++) {
            const away = Math.hypot((i % 160) + 0.5 - x, Math.floor(i / 160) + 0.5 - y);
            if (away >= r + 3.5 && mended.planes[1][i] !== picture.planes[1][i]) changed++;
          }
          expect(changed).toBe(0);
        },
      ),
      { numRuns: 60 },
    );
  });

  it('looks at nothing but what it says it reads', () => {
    const mend = mendAt(70, 60, 10, { dx: 40, dy: 5 });
    const picture = dusty(8);
    const reads = healReads(mend, wholeWindow(picture).picture);
    const other = cloneRaster(picture);
    for (let i = 0; i < 160 * 120; i++) {
      const [x, y] = [i % 160, Math.floor(i / 160)];
      const isRead = reads.some(
        (r) => x >= r.left && y >= r.top && x < r.left + r.width && y < r.top + r.height,
      );
      if (!isRead) for (const plane of other.planes) plane[i] = 255 - plane[i];
    }
    expect(heal(mend, canvasOf(pixelsOf(other)))).toEqual(heal(mend, canvasOf(pixelsOf(picture))));
  });

  it('lets a dark roof beside the speck leave no halo', () => {
    const tone = (_x: number, y: number): number => (y > 72 ? 0.08 : 0.7);
    const clean = pictureOf(160, 120, tone);
    const seen = pictureOf(160, 120, (x, y) => tone(x, y) * (1 - 0.5 * speckAt(x, y, 80, 60, 7)));
    // The ring of this mend reaches onto the roof; the source lies in the open sky.
    const mended = healed(seen, mendAt(80, 60, 9, { dx: 0, dy: -30 }));
    let worst = 0;
    for (let y = 45; y < 72; y++)
      for (let x = 65; x < 95; x++)
        worst = Math.max(worst, Math.abs(mended.planes[0][y * 160 + x] - clean.planes[0][y * 160 + x]));
    expect(worst).toBeLessThanOrEqual(3);
  });

  it('keeps the grain that a plain fill would lose', () => {
    const seen = pictureOf(160, 120, (x, y) => 0.5 - 0.3 * speckAt(x, y, 80, 60, 12), {
      grain: 0.03,
      seed: 8,
      channels: 1,
    });
    const clean = pictureOf(160, 120, () => 0.5, { grain: 0.03, seed: 8, channels: 1 });
    const fault = { id: 'a', x: 80, y: 60, r: 12, softness: 0.4 };
    const [mend] = proposeMends([fault], pixelsOf(seen), 'heal');
    if (mend.method !== 'heal') throw new Error(`asked for heal, got ${mend.method}`);
    expect(mend.source).not.toBeNull();
    const inside = Uint8Array.from({ length: 160 * 120 }, (_, i) =>
      Math.hypot((i % 160) + 0.5 - 80, Math.floor(i / 160) + 0.5 - 60) < 12 ? 1 : 0,
    );
    const texture = (r: Raster): number => textureStrength(lumaPlane(r), inside);
    expect(texture(healed(seen, mend)) / texture(clean)).toBeGreaterThan(0.8);
    // Carried in from around alone it is given grain like that of its ring.
    expect(texture(healed(seen, { ...mend, source: null })) / texture(clean)).toBeGreaterThan(0.6);
  });

  it('takes away only its share', () => {
    const half = healed(dusty(8), mendAt(70, 60, 10, { dx: 40, dy: 5 }, { share: 0.5 }));
    const [was, is, whole] = [dusty(8), half, sky(8)].map((r) => r.planes[0][60 * 160 + 70]);
    expect(is).toBeGreaterThan(was + 0.4 * (whole - was));
    expect(is).toBeLessThan(was + 0.6 * (whole - was));
  });
});
