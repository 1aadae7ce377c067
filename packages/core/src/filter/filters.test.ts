import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { mulberry } from '../random/mulberry.ts';
import { createFloatPlane } from '../raster/float.ts';
import { halveRaster, pyramidLevels } from '../raster/pyramid.ts';
import { loadOpenCv } from '../testing/openCv.ts';
import { pictureOf } from '../testing/pictures.ts';
import { boxMean } from './boxMean.ts';
import { gaussianBlur } from './gaussian.ts';

function noisePlane(width: number, height: number, seed: number) {
  const plane = createFloatPlane(width, height);
  const uniform = mulberry(seed);
  for (let i = 0; i < plane.data.length; i++) plane.data[i] = uniform();
  return plane;
}

describe('filters against OpenCV 4.12', () => {
  it.each([0.8, 1.5, 4])('blurs like GaussianBlur at sigma %s', async (sigma) => {
    const { cv } = await loadOpenCv();
    const plane = noisePlane(61, 47, 3);
    const source = cv.matFromArray(47, 61, cv.CV_32FC1, [...plane.data]);
    const blurred = new cv.Mat();
    const side = 2 * Math.max(1, Math.round(3.5 * sigma)) + 1;
    cv.GaussianBlur(source, blurred, new cv.Size(side, side), sigma, sigma, cv.BORDER_REPLICATE);
    const own = gaussianBlur(plane, sigma).data;
    for (let i = 0; i < own.length; i++) expect(own[i]).toBeCloseTo(blurred.data32F[i], 5);
  });

  it('averages like a normalised box filter away from the border', async () => {
    const { cv } = await loadOpenCv();
    const plane = noisePlane(50, 40, 5);
    const source = cv.matFromArray(40, 50, cv.CV_32FC1, [...plane.data]);
    const mean = new cv.Mat();
    cv.blur(source, mean, new cv.Size(7, 7));
    const own = boxMean(plane, 3).data;
    for (let y = 3; y < 37; y++)
      for (let x = 3; x < 47; x++) expect(own[y * 50 + x]).toBeCloseTo(mean.data32F[y * 50 + x], 5);
  });

  it('halves a picture like a resize by area', async () => {
    const { cv } = await loadOpenCv();
    const uniform = mulberry(9);
    const picture = pictureOf(64, 48, () => uniform(), { channels: 1 });
    const source = cv.matFromArray(48, 64, cv.CV_8UC1, [...picture.planes[0]]);
    const half = new cv.Mat();
    cv.resize(source, half, new cv.Size(32, 24), 0, 0, cv.INTER_AREA);
    expect([...halveRaster(picture).planes[0]]).toEqual([...half.data]);
  });
});

describe('the pyramid', () => {
  it('keeps an even tone even, whatever the sides', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 40 }), (width, height) => {
        const half = halveRaster(pictureOf(width, height, () => 0.6));
        expect(half.width).toBe(Math.ceil(width / 2));
        expect(new Set(half.planes.flatMap((plane) => [...plane]))).toEqual(new Set([153]));
      }),
    );
  });

  it('goes on until one tile holds the picture', () => {
    expect(pyramidLevels(6000, 4000)).toHaveLength(5);
    expect(pyramidLevels(512, 300)).toHaveLength(1);
    expect(pyramidLevels(513, 10).at(-1)).toEqual({ width: 257, height: 5 });
  });
});
