import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Fence } from '../fence/fence.ts';
import { comparePictures } from '../measure/compare.ts';
import { pixelsOf } from '../raster/pixels.ts';
import type { Raster } from '../raster/raster.ts';
import { cloneRaster } from '../raster/raster.ts';
import { wholeWindow } from '../raster/window.ts';
import { pictureOf } from '../testing/pictures.ts';
import { targetField } from '../target/targetField.ts';
import { applyMend } from './applyMend.ts';
import { canvasOf } from './canvas.ts';
import type { Mend } from './mend.ts';
import type { BridgeMend } from './bridge/bridgeMend.ts';
import type { CloneMend } from './clone/cloneMend.ts';
import type { HealMend } from './heal/healMend.ts';
import { layPatch } from '../raster/patch.ts';
import { mendFault } from './run/mendFault.ts';

const [WIDTH, HEIGHT] = [120, 90];
const PICTURE = pictureOf(
  WIDTH,
  HEIGHT,
  (x, y, c) => 0.5 + 0.2 * Math.sin(x / 6) * Math.cos(y / 8) + 0.05 * c,
  { grain: 0.03 },
);

function mended(picture: Raster, mend: Mend, fences: readonly Fence[] = []): Raster {
  const copy = cloneRaster(picture);
  layPatch(applyMend(mend, canvasOf(pixelsOf(copy), fences)), wholeWindow(copy));
  return copy;
}

const cloneAt = (more: Partial<CloneMend> = {}): CloneMend => ({
  id: 'c',
  method: 'clone',
  target: { shape: 'disc', x: 40, y: 45, r: 9 },
  margin: 0,
  edge: 0,
  share: 1,
  on: true,
  source: { dx: 35, dy: 4 },
  reads: 'mended',
  laying: 'along',
  buildUp: false,
  ...more,
});

const at = (raster: Raster, x: number, y: number, c = 0): number => raster.planes[c][y * raster.stride + x];

describe('clone', () => {
  it('copies the source value for value', () => {
    const out = mended(PICTURE, cloneAt());
    for (let y = 38; y < 52; y++)
      for (let x = 33; x < 47; x++)
        if (Math.hypot(x + 0.5 - 40, y + 0.5 - 45) <= 9)
          expect(at(out, x, y)).toBe(at(PICTURE, x + 35, y + 4));
  });

  it('mirrors about the middle of its target', () => {
    const out = mended(PICTURE, cloneAt({ source: { dx: 35, dy: 4, mirror: true } }));
    // Column 40 + k takes from 75 - 1 - k: the picture runs the other way.
    for (let k = 0; k < 6; k++)
      expect(Math.abs(at(out, 40 + k, 45) - at(PICTURE, 74 - k, 49))).toBeLessThanOrEqual(1);
  });

  it('turns a quarter clockwise', () => {
    const out = mended(PICTURE, cloneAt({ source: { dx: 35, dy: 0, turn: Math.PI / 2 } }));
    // What lies above the source's middle comes to lie to the right of the target's.
    for (let k = 1; k < 7; k++)
      expect(Math.abs(at(out, 40 + k, 45) - at(PICTURE, 75, 44 - k))).toBeLessThanOrEqual(1);
  });

  it('enlarges smoothly', () => {
    const slope = pictureOf(WIDTH, HEIGHT, (x) => 0.2 + 0.004 * x);
    const out = mended(slope, cloneAt({ source: { dx: 35, dy: 0, scale: 2 } }));
    const step = (at(out, 46, 45) - at(out, 34, 45)) / 12;
    expect(step).toBeCloseTo((255 * 0.004) / 2, 1);
  });

  it('lays down nothing where its source leaves the picture', () => {
    const out = mended(PICTURE, cloneAt({ source: { dx: 75, dy: 0 } }));
    for (let y = 36; y < 54; y++) for (let x = 45; x < 50; x++) expect(at(out, x, y)).toBe(at(PICTURE, x, y));
    expect(at(out, 38, 45)).toBe(at(PICTURE, 113, 45));
  });

  it('takes from one place again and again when its source is fixed', () => {
    const stroke = {
      shape: 'stroke' as const,
      points: [
        [30, 40],
        [70, 40],
      ] as const,
      width: 8,
    };
    const out = mended(PICTURE, cloneAt({ target: stroke, laying: 'fixed', source: { dx: 50, dy: 30 } }));
    // The last dab lies on top, and its middle shows the middle of the source: (30 + 50, 40 + 30).
    expect(at(out, 70, 40)).toBe(at(PICTURE, 80, 70));
    expect(at(out, 68, 41)).toBe(at(PICTURE, 78, 71));
    const along = mended(PICTURE, cloneAt({ target: stroke, source: { dx: 20, dy: 30 } }));
    expect(at(along, 70, 40)).toBe(at(PICTURE, 90, 70));
  });

  it('adds its share up where a stroke builds up, and not where it does not', () => {
    const grey = pictureOf(WIDTH, HEIGHT, (x) => (x < 60 ? 0.2 : 0.8));
    const target = {
      shape: 'stroke' as const,
      points: [
        [30, 40],
        [34, 40],
        [30, 40],
      ] as const,
      width: 10,
    };
    const source = { dx: 60, dy: 0 };
    const once = mended(grey, cloneAt({ target, source, share: 0.3 }));
    const built = mended(grey, cloneAt({ target, source, share: 0.3, buildUp: true }));
    expect(at(once, 32, 40)).toBe(Math.round(51 + 0.3 * (204 - 51)));
    expect(at(built, 32, 40)).toBeGreaterThan(at(once, 32, 40) + 30);
  });

  it('follows the pen with its pressure', () => {
    const target = {
      shape: 'stroke' as const,
      points: [
        [20, 40],
        [100, 40],
      ] as const,
      width: 20,
      pressure: [1, 0.2],
    };
    const { rect, coverage } = targetField({ target, margin: 0, edge: 0 }, pixelsOf(PICTURE).shape, 0);
    const tall = (x: number): number => {
      let count = 0;
      for (let y = 0; y < rect.height; y++) count += coverage[y * rect.width + x - rect.left];
      return count;
    };
    expect(tall(22)).toBeGreaterThan(17);
    expect(tall(98)).toBeLessThan(7);
  });
});

describe('lighten only and darken only', () => {
  it('never do the other, whatever the mend', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('lighten' as const, 'darken' as const),
        fc.integer({ min: -30, max: 30 }),
        fc.integer({ min: -30, max: 30 }),
        (only, dx, dy) => {
          const out = mended(PICTURE, cloneAt({ only, source: { dx, dy }, edge: 3 }));
          const luma = (r: Raster, i: number): number =>
            0.2126 * r.planes[0][i] + 0.7152 * r.planes[1][i] + 0.0722 * r.planes[2][i];
          for (let i = 0; i < WIDTH * HEIGHT; i++) {
            const change = luma(out, i) - luma(PICTURE, i);
            // Rounding of three channels may cost half a code.
            expect(only === 'lighten' ? change : -change).toBeGreaterThanOrEqual(-0.5);
          }
        },
      ),
      { numRuns: 20 },
    );
  });
});

const guard = (area: Fence['area'], edge = 0): Fence => ({
  id: 'g',
  kind: 'guard',
  name: 'roof',
  area,
  edge,
  on: true,
});
const LEFT_HALF: Fence['area'] = {
  shape: 'outline',
  points: [
    [-5, -5],
    [40, -5],
    [40, 95],
    [-5, 95],
  ],
};

const healAt = (more: Partial<HealMend> = {}): HealMend => ({
  id: 'h',
  method: 'heal',
  target: { shape: 'disc', x: 44, y: 45, r: 9 },
  margin: 1,
  edge: 1.5,
  share: 1,
  on: true,
  source: { dx: 35, dy: 4 },
  ...more,
});

describe('a fence', () => {
  const mends: Mend[] = [
    healAt(),
    healAt({ source: null }),
    cloneAt({ target: { shape: 'disc', x: 44, y: 45, r: 9 } }),
    {
      id: 'b',
      method: 'bridge',
      target: { shape: 'stroke', points: [[20, 30] as const, [70, 60] as const], width: 3 },
      margin: 1,
      edge: 1,
      share: 1,
      on: true,
    } satisfies BridgeMend,
  ];

  it.each(mends)('keeps every value behind it, and lets nothing from there in: $method', (mend) => {
    const fences = [guard(LEFT_HALF)];
    const out = mended(PICTURE, mend, fences);
    const other = cloneRaster(PICTURE);
    for (const plane of other.planes)
      for (let i = 0; i < plane.length; i++) if (i % WIDTH < 36) plane[i] = 255 - plane[i];
    const otherOut = mended(other, mend, fences);
    for (let i = 0; i < WIDTH * HEIGHT; i++) {
      if (i % WIDTH < 39) expect(out.planes[0][i]).toBe(PICTURE.planes[0][i]);
      else if (i % WIDTH > 44) expect(otherOut.planes[0][i]).toBe(out.planes[0][i]);
    }
    const worked = out.planes[0].some((value, i) => i % WIDTH > 44 && value !== PICTURE.planes[0][i]);
    expect(worked).toBe(true);
  });

  it('bounds a mend to the zone it names, and no other mend', () => {
    const zone: Fence = { ...guard(LEFT_HALF), kind: 'zone', id: 'sky', name: 'sky' };
    const bound = mended(PICTURE, healAt({ zone: 'sky', source: null }), [zone]);
    const free = mended(PICTURE, healAt({ source: null }), [zone]);
    for (let i = 0; i < WIDTH * HEIGHT; i++)
      if (i % WIDTH > 41) expect(bound.planes[0][i]).toBe(PICTURE.planes[0][i]);
    expect(free.planes).toEqual(mended(PICTURE, healAt({ source: null })).planes);
  });

  it('bounds what is proposed for a fault in a zone, and takes its source from there', () => {
    const zone: Fence = { ...guard(LEFT_HALF), kind: 'zone', id: 'sky', name: 'sky' };
    const fault = { id: 'm', x: 25, y: 40, r: 4, softness: 0.3, zone: 'sky' };
    const { mend } = mendFault(fault, { avoid: [], used: [], fences: [zone] }, pixelsOf(PICTURE), 'heal');
    expect(mend.zone).toBe('sky');
    if (mend.method !== 'heal' || !mend.source) throw new Error('a heal with a source was asked for');
    // The zone ends at 40, and the mend reaches a few pixels around its middle.
    expect(25 + mend.source.dx).toBeLessThan(38);
  });

  it('mixes the pixels anew that two surfaces share along it', () => {
    // A dark roof below, a light sky above, one row in which they mix; a dark speck on sky and mixed row.
    const clean = pictureOf(WIDTH, HEIGHT, (_x, y) => (y > 51 ? 0.1 : y > 50 ? 0.45 : 0.8));
    const seen = cloneRaster(clean);
    for (const plane of seen.planes)
      for (let y = 40; y < 51; y++)
        for (let x = 50; x < 62; x++) {
          const isMixed = y === 50;
          plane[y * WIDTH + x] = Math.round(255 * (isMixed ? 0.5 * 0.3 + 0.05 : 0.3));
        }
    const roof = guard(
      {
        shape: 'outline',
        points: [
          [-5, 51],
          [125, 51],
          [125, 95],
          [-5, 95],
        ],
      },
      1,
    );
    const target = {
      shape: 'outline' as const,
      points: [
        [49, 39],
        [63, 39],
        [63, 51],
        [49, 51],
      ] as const,
    };
    const out = mended(seen, healAt({ target, margin: 0, edge: 0, source: null }), [roof]);
    expect(Math.abs(at(out, 56, 45) - at(clean, 56, 45))).toBeLessThanOrEqual(2);
    expect(Math.abs(at(out, 56, 50) - at(clean, 56, 50))).toBeLessThanOrEqual(20);
    expect(Math.abs(at(seen, 56, 50) - at(clean, 56, 50))).toBeGreaterThan(50);
  });
});

describe('bridge', () => {
  const line: BridgeMend = {
    id: 'b',
    method: 'bridge',
    target: { shape: 'stroke', points: [[10, 45] as const, [110, 47] as const], width: 3 },
    margin: 0.5,
    edge: 0.5,
    share: 1,
    on: true,
  };
  const inside = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => {
    const y = Math.floor(i / WIDTH) + 0.5;
    const x = (i % WIDTH) + 0.5;
    return x > 10 && x < 110 && Math.abs(y - 45 - (2 * (x - 10)) / 100) < 2 ? 1 : 0;
  });
  const scratched = (clean: Raster): Raster => {
    const seen = cloneRaster(clean);
    for (const plane of seen.planes) for (let i = 0; i < plane.length; i++) if (inside[i]) plane[i] = 235;
    return seen;
  };

  it('carries stripes across a scratch, each on its own side', () => {
    const stripes = pictureOf(WIDTH, HEIGHT, (x) => (Math.floor(x / 6) % 2 ? 0.7 : 0.3), { grain: 0.008 });
    const after = comparePictures(mended(scratched(stripes), line), stripes, inside);
    expect(after.psnr).toBeGreaterThan(27);
    expect(after.ssim).toBeGreaterThan(0.85);
  });

  it('ends with the grain of its surroundings', () => {
    const grainy = pictureOf(WIDTH, HEIGHT, () => 0.5, { grain: 0.05 });
    const after = comparePictures(mended(scratched(grainy), line), grainy, inside);
    expect(after.texture).toBeGreaterThan(0.7);
    expect(after.texture).toBeLessThan(1.2);
  });

  it('gives the same grain on every run, and another for another mend', () => {
    const seen = scratched(pictureOf(WIDTH, HEIGHT, () => 0.5, { grain: 0.05 }));
    expect(mended(seen, line).planes).toEqual(mended(seen, line).planes);
    expect(mended(seen, line).planes).not.toEqual(mended(seen, { ...line, id: 'other' }).planes);
  });
});
