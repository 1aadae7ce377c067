import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { SRGB_TRANSFER, sharedTransferTable } from '../../light/transfer.ts';
import { linearToSrgb, srgbToLinear } from '../../light/srgb.ts';
import { comparePictures } from '../../measure/compare.ts';
import { gaussianBlur } from '../../filter/gaussian.ts';
import { gaussian } from '../../random/gaussian.ts';
import { mulberry } from '../../random/mulberry.ts';
import { createFloatPlane } from '../../raster/float.ts';
import { pixelsOf } from '../../raster/pixels.ts';
import type { Depth, Raster } from '../../raster/raster.ts';
import { cloneRaster, fullScale } from '../../raster/raster.ts';
import { wholeWindow } from '../../raster/window.ts';
import { pictureOf } from '../../testing/pictures.ts';
import { applyMend } from '../applyMend.ts';
import { canvasOf } from '../canvas.ts';
import { layPatch } from '../../raster/patch.ts';
import { proposeMend } from '../proposeMend.ts';
import { penumbra, penumbraFast } from '../../veil/penumbra.ts';
import type { Veil } from '../../veil/veil.ts';
import { veilField } from '../../veil/veil.ts';
import { parametersOf, veilFrom } from './veilParameters.ts';

const [WIDTH, HEIGHT] = [120, 100];
const WHOLE = { left: 0, top: 0, width: WIDTH, height: HEIGHT };
const SHADOW: Veil = {
  kind: 'disc',
  x: 58.3,
  y: 51.6,
  r: 11,
  softness: 0.4,
  stretch: 1.08,
  angle: 0.6,
  depth: 0.35,
  light: null,
};

/** Structure of several sizes that does not line up with a disc, and grain. */
const boards = (depth: Depth = 8, seed = 4): Raster => {
  const uniform = mulberry(seed);
  const clouds = [2, 4, 9].map((sigma) => {
    const noise = createFloatPlane(WIDTH, HEIGHT);
    for (let i = 0; i < noise.data.length; i++) noise.data[i] = sigma * gaussian(uniform);
    return gaussianBlur(noise, sigma).data;
  });
  return pictureOf(
    WIDTH,
    HEIGHT,
    (x, y, c) => {
      const i = Math.floor(y) * WIDTH + Math.floor(x);
      return 0.45 + 0.13 * (clouds[0][i] + clouds[1][i]) + 0.05 * clouds[2][i] - 0.05 * c;
    },
    { grain: 0.015, depth, seed },
  );
};

/** Lays a veil on in linear light, as the lens would see it. */
function veiled(clean: Raster, veil: Veil): Raster {
  const seen = cloneRaster(clean);
  const top = fullScale(clean.depth);
  const amount = veilField(veil, WHOLE);
  seen.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      const light = srgbToLinear(plane[i] / top);
      plane[i] = Math.round(top * linearToSrgb(light + amount[i] * ((veil.light?.[c] ?? 0) - light)));
    }
  });
  return seen;
}

const insideOf = (veil: Veil): Uint8Array =>
  Uint8Array.from(veilField(veil, WHOLE), (a) => (a > 0.1 * veil.depth ? 1 : 0));

function recovered(seen: Raster, polarity: 'dark' | 'bright', off = { x: 1.2, y: -1, r: 0.85 }): Raster {
  const target = {
    shape: 'disc' as const,
    x: SHADOW.x + off.x,
    y: SHADOW.y + off.y,
    r: SHADOW.r * off.r,
  };
  const { mend } = proposeMend(
    { id: 'm', target, margin: 3, polarity },
    { avoid: [], used: [] },
    pixelsOf(seen),
    'recover',
  );
  const out = cloneRaster(seen);
  layPatch(applyMend(mend, canvasOf(pixelsOf(out))), wholeWindow(out));
  return out;
}

describe('the penumbra', () => {
  it('is half at the edge, even about it, and the same from the table', () => {
    fc.assert(
      fc.property(fc.double({ min: -1.5, max: 1.5, noNaN: true }), (t) => {
        expect(penumbra(t) + penumbra(-t)).toBeCloseTo(1, 9);
        expect(Math.abs(penumbra(t) - penumbraFast(t))).toBeLessThan(2e-5);
      }),
    );
    // The area of a circular segment of height r/2 over that of the circle is 1/3 - sqrt(3)/(4 pi) (plain geometry).
    expect(penumbra(-0.5)).toBeCloseTo(1 / 3 - Math.sqrt(3) / (4 * Math.PI), 9);
  });
});

describe('a veil', () => {
  it('as numbers for the fit and back is the same veil', () => {
    fc.assert(
      fc.property(
        fc.record({
          kind: fc.constant('disc' as const),
          x: fc.double({ min: 0, max: 100, noNaN: true }),
          y: fc.double({ min: 0, max: 100, noNaN: true }),
          r: fc.double({ min: 1, max: 60, noNaN: true }),
          softness: fc.double({ min: 0, max: 1, noNaN: true }),
          stretch: fc.double({ min: 1.01, max: 1.3, noNaN: true }),
          angle: fc.double({ min: -1.5, max: 1.5, noNaN: true }),
          depth: fc.double({ min: 0.01, max: 0.9, noNaN: true }),
          light: fc.constantFrom(null, [0.4, 0.5, 0.6]),
        }),
        (veil) => {
          const again = veilFrom(parametersOf(veil));
          for (const key of ['x', 'y', 'r', 'softness', 'stretch', 'depth'] as const)
            expect(again[key]).toBeCloseTo(veil[key], 6);
          expect(Math.cos(2 * (again.angle - veil.angle))).toBeCloseTo(1, 6);
          expect(again.light).toEqual(veil.light);
        },
      ),
    );
  });

  it('that is a shadow takes the same share of light from every tone', () => {
    const field = veilField({ ...SHADOW, stretch: 1 }, WHOLE);
    expect(field[51 * WIDTH + 58]).toBeCloseTo(SHADOW.depth, 6);
    expect(field[0]).toBe(0);
  });
});

describe('recover', () => {
  it.each([8, 16] as const)('brings back what lies under a shadow, at %i bit', (depth) => {
    const clean = boards(depth);
    const seen = veiled(clean, SHADOW);
    const inside = insideOf(SHADOW);
    const before = comparePictures(seen, clean, inside);
    const after = comparePictures(recovered(seen, 'dark'), clean, inside);
    expect((after.psnr ?? Infinity) - (before.psnr ?? 0)).toBeGreaterThan(7);
    expect(after.ssim).toBeGreaterThan(0.95);
    expect(after.texture).toBeGreaterThan(0.93);
    expect(after.texture).toBeLessThan(1.07);
  });

  it('takes the light of a lit particle off and keeps the detail under it', () => {
    const clean = boards();
    const lit = { ...SHADOW, depth: 0.5, light: [0.5, 0.8, 0.7] };
    const seen = veiled(clean, lit);
    const inside = insideOf(lit);
    const after = comparePictures(recovered(seen, 'bright'), clean, inside);
    expect((after.psnr ?? Infinity) - (comparePictures(seen, clean, inside).psnr ?? 0)).toBeGreaterThan(15);
    expect(after.ssim).toBeGreaterThan(0.93);
  });

  it('reads light through the curve of the picture itself', () => {
    // A picture whose values are light: the same shadow divides values, not sRGB values.
    const linear = [1, 2, 3].map(() => ({ kind: 'gamma', gamma: 1 }) as const);
    const clean = boards(16);
    const seen = cloneRaster(clean);
    const amount = veilField(SHADOW, WHOLE);
    for (const plane of seen.planes)
      for (let i = 0; i < plane.length; i++) plane[i] = Math.round(plane[i] * (1 - amount[i]));
    const target = { shape: 'disc' as const, x: SHADOW.x, y: SHADOW.y, r: SHADOW.r };
    const wish = { id: 'm', target, margin: 3, polarity: 'dark' as const };
    const pixels = pixelsOf(seen, linear);
    const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixels, 'recover');
    if (mend.method !== 'recover' || mend.veil.kind !== 'disc') throw new Error(mend.method);
    expect(mend.veil.depth).toBeCloseTo(SHADOW.depth, 1);
    const out = cloneRaster(seen);
    layPatch(applyMend(mend, canvasOf(pixelsOf(out, linear))), wholeWindow(out, linear));
    const { psnr } = comparePictures(out, clean, insideOf(SHADOW));
    expect(psnr).toBeGreaterThan(30);
  });

  it('changes not one value where the veil does not lie', () => {
    const seen = veiled(boards(), SHADOW);
    const out = recovered(seen, 'dark');
    out.planes.forEach((plane, c) => {
      for (let i = 0; i < plane.length; i++) {
        const away = Math.hypot((i % WIDTH) + 0.5 - SHADOW.x, Math.floor(i / WIDTH) + 0.5 - SHADOW.y);
        if (away > 2.2 * SHADOW.r) expect(plane[i]).toBe(seen.planes[c][i]);
      }
    });
  });

  it('gives way to a heal where nothing came through', () => {
    const clean = boards();
    const seen = veiled(clean, { ...SHADOW, depth: 0.995, softness: 0.05, light: [1.2, 1.2, 1.2] });
    const target = { shape: 'disc' as const, x: SHADOW.x, y: SHADOW.y, r: SHADOW.r };
    const { mend, reason } = proposeMend(
      { id: 'm', target, margin: 3 },
      { avoid: [], used: [] },
      pixelsOf(seen),
    );
    expect(mend.method).toBe('heal');
    expect(reason.method).toBe('heal');
    expect(reason.because).not.toBe('light comes through');
  });

  it('says why it chose recover, and how much can be recovered', () => {
    const seen = veiled(boards(), SHADOW);
    const target = { shape: 'disc' as const, x: SHADOW.x, y: SHADOW.y, r: SHADOW.r };
    const { reason } = proposeMend({ id: 'm', target, margin: 3 }, { avoid: [], used: [] }, pixelsOf(seen));
    expect(reason).toMatchObject({ method: 'recover', because: 'light comes through' });
    expect(reason.recoverability).toBeGreaterThan(0.9);
    expect(reason.evidence).toBeGreaterThan(10);
  });
});

describe('a stain', () => {
  it('loses its tint and density and keeps the structure under it', () => {
    const clean = boards(16);
    const seen = cloneRaster(clean);
    const strength = (x: number, y: number): number =>
      Math.min(1, Math.max(0, (26 - Math.hypot(x - 60, 0.8 * (y - 50))) / 5));
    // Tea: blue is held back most.
    [0.12, 0.3, 0.6].forEach((density, c) => {
      const plane = seen.planes[c];
      for (let i = 0; i < plane.length; i++) {
        const share = strength((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5);
        plane[i] = Math.round(
          65535 * linearToSrgb(srgbToLinear(plane[i] / 65535) * Math.exp(-density * share)),
        );
      }
    });
    const points = Array.from({ length: 40 }, (_, k): [number, number] => {
      const angle = (2 * Math.PI * k) / 40;
      return [60 + 23 * Math.cos(angle), 50 + 28 * Math.sin(angle)];
    });
    const { mend, reason } = proposeMend(
      { id: 's', target: { shape: 'outline', points }, margin: 1, kind: 'stain' },
      { avoid: [], used: [] },
      pixelsOf(seen),
    );
    expect(reason.because).toBe('smooth tint');
    const out = cloneRaster(seen);
    layPatch(applyMend({ ...mend, edge: 4 }, canvasOf(pixelsOf(out))), wholeWindow(out));
    const inside = Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) =>
      strength((i % WIDTH) + 0.5, Math.floor(i / WIDTH) + 0.5) === 1 ? 1 : 0,
    );
    const [before, after] = [seen, out].map((raster) => comparePictures(raster, clean, inside));
    expect((after.psnr ?? 0) - (before.psnr ?? 0)).toBeGreaterThan(8);
    expect(after.ssim).toBeGreaterThan(0.97);
    expect(after.texture).toBeGreaterThan(0.93);
    expect(after.texture).toBeLessThan(1.07);
  });
});

describe('a transfer table', () => {
  it('encodes what it decodes', () => {
    const curves = [
      SRGB_TRANSFER,
      { kind: 'gamma', gamma: 1.8 },
      { kind: 'parametric', g: 2.4, a: 1 / 1.055, b: 0.055 / 1.055, c: 1 / 12.92, d: 0.04045, e: 0, f: 0 },
      { kind: 'table', light: Array.from({ length: 33 }, (_, i) => (i / 32) ** 2.2) },
    ] as const;
    for (const curve of curves)
      for (const top of [255, 65535]) {
        const { light, encode } = sharedTransferTable(curve, top);
        for (let code = 0; code <= top; code += top === 255 ? 1 : 977)
          expect(Math.abs(encode(light[code]) - code)).toBeLessThan(0.51);
      }
  });
});
