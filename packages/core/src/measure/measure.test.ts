import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { ssim } from 'ssim.js';
import { lumaPlane } from '../raster/float.ts';
import { mulberry } from '../random/mulberry.ts';
import type { Raster } from '../raster/raster.ts';
import { pictureOf } from '../testing/pictures.ts';
import { comparePictures } from './compare.ts';
import { medianOf } from './medianOf.ts';
import { ssimMap } from './ssim.ts';
import { upperMedian } from './upperMedian.ts';

/** Two pictures that are alike but not the same. */
function pair(): [Raster, Raster] {
  const uniform = mulberry(4);
  const clean = pictureOf(72, 56, (x, y) => 0.5 + 0.3 * Math.sin(x / 5) * Math.cos(y / 7), { channels: 1 });
  const noisy = pictureOf(
    72,
    56,
    (x, y) => clean.planes[0][Math.floor(y) * 72 + Math.floor(x)] / 255 + 0.2 * (uniform() - 0.5),
    {
      channels: 1,
    },
  );
  return [clean, noisy];
}

describe('the upper median', () => {
  it('is that of the sorted values', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -9, max: 9 }), { minLength: 1, maxLength: 40 }), (values) => {
        expect(upperMedian(Float32Array.from(values))).toBe(medianOf(values));
      }),
    );
  });
});

describe('measures', () => {
  it('gives the PSNR of a known error: one code of 255 everywhere is 48.13 dB', () => {
    // 20 log10(255) = 48.1308 dB: the definition (Wang et al. 2004, equation 1 and the text below it).
    const a = pictureOf(16, 16, () => 100 / 255);
    const b = pictureOf(16, 16, () => 101 / 255);
    expect(comparePictures(a, b).psnr).toBeCloseTo(48.1308, 3);
    expect(comparePictures(a, a).psnr).toBeNull();
  });

  it('agrees with ssim.js 3.5.0 (the original algorithm of Wang et al. 2004)', () => {
    const [a, b] = pair();
    const rgba = ({ planes, width, height }: Raster) => ({
      width,
      height,
      data: Uint8ClampedArray.from({ length: width * height * 4 }, (_, i) =>
        i % 4 === 3 ? 255 : planes[0][i >> 2],
      ),
    });
    const reference = ssim(rgba(a), rgba(b), {
      ssim: 'original',
      downsample: false,
      rgb2grayVersion: 'integer',
    });
    const own = ssimMap(lumaPlane(a), lumaPlane(b));
    // The reference leaves out the border that its window of 11 does not fill.
    let [sum, count] = [0, 0];
    for (let y = 5; y < 51; y++) for (let x = 5; x < 67; x++, count++) sum += own.data[y * 72 + x];
    expect(reference.mssim).toBeLessThan(0.95);
    expect(sum / count).toBeCloseTo(reference.mssim, 2);
  });

  it('says that a fog has lost its texture and that grain alone is not a likeness', () => {
    const [clean, noisy] = pair();
    const fog = pictureOf(72, 56, () => 0.5, { channels: 1 });
    expect(comparePictures(fog, noisy).texture).toBeLessThan(0.01);
    expect(comparePictures(noisy, clean).texture).toBeGreaterThan(1.5);
    expect(comparePictures(noisy, clean).ssim).toBeLessThan(0.9);
  });

  it('looks only where the mask is white', () => {
    const a = pictureOf(32, 32, () => 0.5);
    const b = pictureOf(32, 32, (x) => (x < 16 ? 0.5 : 0.9));
    const left = Uint8Array.from({ length: 1024 }, (_, i) => (i % 32 < 16 ? 1 : 0));
    expect(comparePictures(a, b, left)).toMatchObject({ psnr: null, pixels: 512 });
    expect(comparePictures(a, b).psnr).toBeLessThan(20);
  });
});
