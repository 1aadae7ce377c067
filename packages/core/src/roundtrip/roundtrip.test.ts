import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { emptyRecipe } from '../recipe/recipe.ts';
import { renderRecipe } from '../recipe/render.ts';
import { cloneRaster, viewRaster } from '../raster/raster.ts';
import type { Raster } from '../raster/raster.ts';
import { lumaPlane } from '../raster/float.ts';
import { gaussianBlur } from '../filter/gaussian.ts';
import { scaleTreatment } from '../mend/treat/scaleTreatment.ts';
import type { ReturnMend } from '../mend/treat/return/returnMend.ts';
import { pictureOf } from '../testing/pictures.ts';
import { fromBase64, toBase64 } from '../kernels/base64.ts';
import { compareReturned, valuesInside } from './compareReturned.ts';
import { fourier } from './fourier.ts';
import { phaseShift } from './phaseShift.ts';
import { returnedValues } from '../mend/treat/return/returnedValues.ts';

const [WIDTH, HEIGHT] = [160, 120];
const ROOM = 10;
const WIDE = {
  8: wide(8),
  16: wide(16),
};
function wide(depth: 8 | 16): Raster {
  return pictureOf(
    WIDTH + 2 * ROOM,
    HEIGHT,
    (x, y, c) => 0.45 + 0.2 * Math.sin(x / 5 + c) * Math.cos(y / 7) + 0.1 * Math.sin(x * y * 0.003),
    { depth, grain: 0.004 },
  );
}
/** A scene, moved to the right with its grain. */
const scene = (depth: 8 | 16, moved = 0): Raster =>
  cloneRaster(viewRaster(WIDE[depth], { left: ROOM - moved, top: 0, width: WIDTH, height: HEIGHT }));

/** A picture with a square and a line painted over. */
function painted(raster: Raster): Raster {
  const out = cloneRaster(raster);
  const top = raster.depth === 8 ? 255 : 65535;
  for (const plane of out.planes) {
    for (let y = 30; y < 50; y++)
      for (let x = 40; x < 70; x++) plane[y * out.stride + x] = Math.round(0.9 * top);
    for (let x = 20; x < 140; x++) plane[90 * out.stride + x] = Math.round(0.05 * top);
  }
  return out;
}

describe('the Fourier transform', () => {
  it('is its definition, and comes back', () => {
    const side = 8;
    const real = Float64Array.from({ length: side * side }, (_, i) => Math.sin(3 * i) + (i % 5));
    const [re, im] = [real.slice(), new Float64Array(side * side)];
    fourier(re, im, side, 'forward');
    for (const [u, v] of [
      [0, 0],
      [1, 3],
      [5, 2],
    ]) {
      let [sumRe, sumIm] = [0, 0];
      for (let y = 0; y < side; y++)
        for (let x = 0; x < side; x++) {
          const angle = (-2 * Math.PI * (u * x + v * y)) / side;
          sumRe += real[y * side + x] * Math.cos(angle);
          sumIm += real[y * side + x] * Math.sin(angle);
        }
      expect(re[v * side + u]).toBeCloseTo(sumRe, 9);
      expect(im[v * side + u]).toBeCloseTo(sumIm, 9);
    }
    fourier(re, im, side, 'back');
    real.forEach((value, i) => expect(re[i]).toBeCloseTo(value, 9));
  });
});

describe('a shift between two pictures', () => {
  it('is found to a part of a pixel', () => {
    for (const moved of [0, 3, -7]) {
      const found = phaseShift(lumaPlane(scene(8)), lumaPlane(scene(8, moved)));
      expect(Math.abs((found?.dx ?? NaN) - moved)).toBeLessThan(0.3);
      expect(Math.abs(found?.dy ?? NaN)).toBeLessThan(0.3);
    }
  });

  it('is none where a picture was only blurred', () => {
    const luma = lumaPlane(scene(8));
    const found = phaseShift(luma, gaussianBlur(luma, 1));
    expect(Math.hypot(found?.dx ?? NaN, found?.dy ?? NaN)).toBeLessThan(0.2);
  });
});

describe('bytes as text', () => {
  it('come back, and are what the standard says (RFC 4648, section 10)', () => {
    const text = (words: string): Uint8Array => Uint8Array.from([...words].map((one) => one.charCodeAt(0)));
    for (const [plain, coded] of [
      ['', ''],
      ['f', 'Zg=='],
      ['fo', 'Zm8='],
      ['foob', 'Zm9vYg=='],
      ['foobar', 'Zm9vYmFy'],
    ])
      expect(toBase64(text(plain))).toBe(coded);
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        expect(fromBase64(toBase64(bytes))).toEqual(bytes);
      }),
    );
    expect(fromBase64('abc')).toBeNull();
    expect(fromBase64('a*==')).toBeNull();
  });
});

describe('a picture that comes back from elsewhere', () => {
  const back = (sent: Raster, returned: Raster): ReturnMend => {
    const { changed } = compareReturned(sent, returned);
    if (!changed) throw new Error('nothing changed');
    return {
      ...{ id: 'r', method: 'return', target: changed, margin: 0, edge: 0, share: 1, on: true },
      ...{ depth: sent.depth, values: valuesInside(returned, changed) },
    };
  };

  it('is told where it changed, and nothing where it only was rounded', () => {
    const sent = scene(16);
    const { changed, share, isAligned } = compareReturned(sent, painted(sent));
    expect(isAligned).toBe(true);
    expect(changed).toMatchObject({ left: 19, top: 29, width: 122 });
    expect(share).toBeGreaterThan((20 * 30 + 120) / (WIDTH * HEIGHT));
    expect(share).toBeLessThan((1.6 * (20 * 30 + 120) + 400) / (WIDTH * HEIGHT));
    const rounded = cloneRaster(sent);
    for (const plane of rounded.planes)
      for (let i = 0; i < plane.length; i++) plane[i] = Math.round(plane[i] / 257) * 257;
    expect(compareReturned(sent, rounded).changed).toBeNull();
    expect(compareReturned(sent, scene(16, 4)).isAligned).toBe(false);
  });

  it.each([8, 16] as const)('lies on the picture value for value, and goes again, at %i bit', (depth) => {
    const sent = scene(depth);
    const returned = painted(sent);
    const mend = back(sent, returned);
    const rendered = cloneRaster(sent);
    const recipe = { ...emptyRecipe({ width: WIDTH, height: HEIGHT }), mends: [mend] };
    renderRecipe(rendered, recipe);
    expect(rendered.planes.map((plane) => [...plane])).toEqual(returned.planes.map((plane) => [...plane]));
    const off = cloneRaster(sent);
    renderRecipe(off, { ...recipe, mends: [{ ...mend, on: false }] });
    expect(off.planes).toEqual(sent.planes);
  });

  it('is seen from afar as the mean of what it covers', () => {
    const sent = scene(8);
    const small = scaleTreatment(back(sent, painted(sent)), 4);
    if (small.method !== 'return') throw new Error('it became something else');
    const values = returnedValues(small);
    // The middle of the square is all of one value.
    const row = values?.spans.rows[Math.floor(40 / 4) - (values.spans.top ?? 0)] ?? [];
    expect(row[0]).toBeLessThanOrEqual(10);
    const at =
      (values?.starts[Math.floor(40 / 4) - (values?.spans.top ?? 0)] ?? 0) + Math.floor(55 / 4) - row[0];
    expect(values?.channels[0][at]).toBeCloseTo(0.9, 2);
  });
});
