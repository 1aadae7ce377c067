import { describe, expect, it } from 'vitest';
import { gaussianBlur } from '../filter/gaussian.ts';
import { gaussian } from '../random/gaussian.ts';
import { mulberry } from '../random/mulberry.ts';
import { createRaster } from '../raster/raster.ts';
import type { Raster } from '../raster/raster.ts';
import { measureGrainModel } from './grainModel.ts';
import { grainNoise } from './grainNoise.ts';
import { noiseAt, noiseTable } from './noiseTable.ts';

const SIDE = 384;

/** A gentle gradient under grain of a known coarseness, of which the channels share a part. */
function grainy(coarseness: number, shared: number, sigma: number, seed: number): Raster {
  const uniform = mulberry(seed);
  const noise = (): Float32Array => {
    const white = Float32Array.from({ length: SIDE * SIDE }, () => gaussian(uniform));
    const { data } = gaussianBlur({ width: SIDE, height: SIDE, data: white }, coarseness);
    const deviation = Math.sqrt(data.reduce((sum, value) => sum + value * value, 0) / data.length);
    return data.map((value) => value / deviation);
  };
  const common = noise();
  const raster = createRaster(SIDE, SIDE, 3, 16);
  for (const plane of raster.planes) {
    const own = noise();
    for (let i = 0; i < plane.length; i++) {
      const grain = Math.sqrt(shared) * common[i] + Math.sqrt(1 - shared) * own[i];
      plane[i] = Math.round(65535 * (0.4 + (0.2 * (i % SIDE)) / SIDE + sigma * grain));
    }
  }
  return raster;
}

/** Energy by octave of frequency: half of the sampling rate to a quarter, and so on down. */
function octaves(data: Float32Array, width: number): number[] {
  const energies: number[] = [];
  let plane = { width, height: data.length / width, data };
  for (const sigma of [0.7, 1.4, 2.8]) {
    const smooth = gaussianBlur(plane, sigma);
    let sum = 0;
    for (let i = 0; i < data.length; i++) sum += (plane.data[i] - smooth.data[i]) ** 2;
    energies.push(sum / data.length);
    plane = smooth;
  }
  return energies;
}

describe('a model of grain', () => {
  it.each([0.45, 0.8, 1.2])(
    'makes grain with the spectrum of the picture, in every octave (coarseness %d)',
    (coarse) => {
      const sigma = 0.02;
      const picture = grainy(coarse, 0.5, sigma, 3);
      const model = measureGrainModel(picture);
      const rect = { left: 40, top: 70, width: SIDE, height: SIDE };
      const noise = grainNoise(model, rect, 11);
      // The green channel against that of the picture without its gradient.
      const own = Float32Array.from(
        picture.planes[1],
        (value, i) => value / 65535 - 0.4 - (0.2 * (i % SIDE)) / SIDE,
      );
      const scale = noiseAt(model.noise, 0.5);
      const made = octaves(
        noise[1].map((value) => value * scale),
        SIDE,
      );
      const wanted = octaves(own, SIDE);
      // Deviations within a tenth.
      made.forEach((energy, octave) => {
        const ratio = Math.sqrt(energy / wanted[octave]);
        expect(ratio).toBeGreaterThan(0.9);
        expect(ratio).toBeLessThan(1.1);
      });
    },
  );

  it('has the colours go together as they do in the picture', () => {
    const correlation = (a: ArrayLike<number>, b: ArrayLike<number>): number => {
      let [ab, aa, bb] = [0, 0, 0];
      for (let i = 0; i < a.length; i++) {
        ab += a[i] * b[i];
        aa += a[i] * a[i];
        bb += b[i] * b[i];
      }
      return ab / Math.sqrt(aa * bb);
    };
    for (const shared of [0, 0.5, 0.95]) {
      const model = measureGrainModel(grainy(0.6, shared, 0.02, 5));
      const noise = grainNoise(model, { left: 0, top: 0, width: 256, height: 256 }, 1);
      expect(Math.abs(correlation(noise[0], noise[2]) - shared)).toBeLessThan(0.1);
    }
  });

  it('is the same grain at the same place, whatever rectangle is asked for', () => {
    const model = measureGrainModel(grainy(0.6, 0.5, 0.02, 5));
    const [wide] = grainNoise(model, { left: 100, top: 50, width: 40, height: 30 }, 9);
    const [part] = grainNoise(model, { left: 117, top: 61, width: 5, height: 4 }, 9);
    for (let y = 0; y < 4; y++)
      for (let x = 0; x < 5; x++) expect(part[y * 5 + x]).toBe(wide[(y + 11) * 40 + x + 17]);
  });

  it('fills the bands of brightness that the picture does not have from their neighbours', () => {
    const table = noiseTable({
      brightness: [],
      sigma: [null, 0.01, null, 0.03, ...new Array<null>(12).fill(null)],
    });
    [0.01, 0.01, 0.02, 0.03, 0.03].forEach((sigma, band) => expect(table[band]).toBeCloseTo(sigma, 9));
    expect(noiseAt(table, 2 / 16)).toBeCloseTo(0.015, 9);
  });
});
