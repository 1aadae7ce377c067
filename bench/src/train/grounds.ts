import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Raster } from '@fennip/core/raster';
import { gaussian, mulberry } from '@fennip/core/random';
import { cloneRaster, createRaster, viewRaster } from '@fennip/core/raster';
import { resizeRaster } from '@fennip/core/resample';
import { decodePicture } from '@fennip/files';
import { loadPhotograph } from '../photographs.ts';

/** A clean ground that faults are laid on, and the grain that the camera lays over both. */
export interface Ground {
  readonly name: string;
  /** The photograph it comes from; none for a rendered one. */
  readonly photograph: string | null;
  readonly raster: Raster;
  /** Spread of the grain, in codes of 255. */
  readonly grain: number;
}

/** Photographs under CC0 that the classifier is trained on; no test and no bench of finding uses them. */
export const TRAINING_PHOTOGRAPHS = [
  'french-alpine-landscape',
  'black-canyon',
  'locomotion-house-cat',
] as const;

/** The photographs as they are, smaller and larger: an enlarged one is as calm as a large frame seen closely. */
const SIZES = [
  { factor: 1, grain: 0 },
  { factor: 0.6, grain: 0 },
  { factor: 1.7, grain: 1.5 },
  { factor: 3, grain: 2.5 },
] as const;
/** An enlarged photograph is cut to this side. */
const MOST_SIDE = 1400;

function resized(raster: Raster, factor: number, side: number): Raster {
  const width = Math.min(raster.width, Math.round(side / factor));
  const height = Math.min(raster.height, Math.round(side / factor));
  const left = (raster.width - width) >> 1;
  const top = (raster.height - height) >> 1;
  const cut = cloneRaster(viewRaster(raster, { left, top, width, height }));
  return factor === 1 ? cut : resizeRaster(cut, Math.round(width * factor), Math.round(height * factor));
}

/** Slow waves of tone: sums of a few cosines. */
function waves(uniform: () => number, count: number, longest: number): (x: number, y: number) => number {
  const parts = Array.from({ length: count }, () => {
    const length = longest * (0.2 + 0.8 * uniform());
    const angle = 2 * Math.PI * uniform();
    return {
      x: (2 * Math.PI * Math.cos(angle)) / length,
      y: (2 * Math.PI * Math.sin(angle)) / length,
      phase: 2 * Math.PI * uniform(),
    };
  });
  return (x, y) =>
    parts.reduce((sum, part) => sum + Math.cos(part.x * x + part.y * y + part.phase), 0) / count;
}

/** A calm ground: sky, water or paper, as a slope of tone with slow waves on it. */
function calmGround(seed: number): Ground {
  const uniform = mulberry(seed);
  const [width, height] = [1100, 900];
  const [tone, slopeX, slopeY] = [40 + 170 * uniform(), 60 * (uniform() - 0.5), 90 * (uniform() - 0.5)];
  const slow = waves(uniform, 6, 900);
  const fine = waves(uniform, 12, 60);
  const [slowBy, fineBy] = [14 * uniform(), 3 * uniform() ** 2];
  const tint = [0.8 + 0.4 * uniform(), 1, 0.8 + 0.5 * uniform()];
  const raster = createRaster(width, height, 3, 8);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const level =
        tone +
        slopeX * (x / width - 0.5) +
        slopeY * (y / height - 0.5) +
        slowBy * slow(x, y) +
        fineBy * fine(x, y);
      // Rounded by chance, so that a slope does not fall into steps.
      for (let c = 0; c < 3; c++)
        raster.planes[c][i] = Math.max(0, Math.min(255, Math.floor(level * tint[c] + uniform())));
    }
  return { name: `calm ${seed}`, photograph: null, raster, grain: 0.6 + 4 * uniform() };
}

const CALM = 14;

/** All grounds that are trained on, the same each time. */
export async function trainingGrounds(): Promise<Ground[]> {
  const photographs = await Promise.all(
    TRAINING_PHOTOGRAPHS.map(async (photograph) => {
      const { raster } = await loadPhotograph(photograph);
      return SIZES.map(({ factor, grain }): Ground => ({
        ...{ name: `${photograph} x ${factor}`, photograph, grain },
        raster: resized(raster, factor, MOST_SIDE),
      }));
    }),
  );
  return [...photographs.flat(), ...Array.from({ length: CALM }, (_, k) => calmGround(500 + k))];
}

/** The photographs that the net learns from; `./fennip train data` fetches them. */
const BROAD = fileURLToPath(new URL('../../../.fennip/photographs/training', import.meta.url));
/** A broad ground is as it was, smaller, or larger, and this long at most. */
const BROAD_FACTORS = [1, 0.6, 1, 1.7] as const;
const BROAD_SIDE = 1100;

/** A part of each of many photographs. */
export async function broadGrounds(): Promise<Ground[]> {
  const names = (await readdir(BROAD)).filter((name) => name.endsWith('.png')).sort();
  return Promise.all(
    names.map(async (file, k): Promise<Ground> => {
      const photograph = file.replace('.png', '');
      const factor = BROAD_FACTORS[k % BROAD_FACTORS.length];
      const { raster } = await decodePicture(join(BROAD, file));
      return {
        name: photograph,
        photograph,
        raster: resized(raster, factor, BROAD_SIDE),
        grain: factor > 1 ? 1.5 : 0,
      };
    }),
  );
}

/** Lays grain over a picture: a little less in the lights, alike in all colours but for a third of it. */
export function layGrain(raster: Raster, spread: number, seed: number): void {
  if (spread === 0) return;
  const uniform = mulberry(seed);
  const { width, height, planes } = raster;
  for (let i = 0; i < width * height; i++) {
    const shared = gaussian(uniform);
    for (const plane of planes) {
      const own = 0.8 * shared + 0.6 * gaussian(uniform);
      plane[i] = Math.max(0, Math.min(255, Math.round(plane[i] + spread * own)));
    }
  }
}

/** How far each grain is spread, in pixels: not at all as on a sensor, or as a scanner's optics and a demosaic spread it. */
const SPREADS = [0, 0.5, 0.8];

/** Each value beside its neighbours so many places before and after it; values that know nothing of one another keep their spread. */
function smeared(values: Float32Array, apart: number, weight: number): Float32Array {
  const keeps = 1 / Math.sqrt(1 + 2 * weight * weight);
  const last = values.length - 1;
  return values.map(
    (value, i) =>
      keeps * (value + weight * (values[Math.max(0, i - apart)] + values[Math.min(last, i + apart)])),
  );
}

/** Grain of a spread of 1 in tone, each grain spread over its neighbours. */
function grainOf(width: number, height: number, blur: number, uniform: () => number): Float32Array {
  const grain = Float32Array.from({ length: width * height }, () => gaussian(uniform));
  if (blur === 0) return grain;
  const weight = Math.exp(-0.5 / (blur * blur));
  return smeared(smeared(grain, 1, weight), width, weight);
}

/**
 * The same, but by its seed as sharp as pixels or softer, as scans and photographs have it: sharp grain has peaks that look
 * like the smallest specks, soft grain has not. What is larger is learned from sharp grain: from soft grain lines and areas
 * learn to be surer than they should be.
 *
 * @param spread in codes of 255
 */
export function laySpreadGrain(raster: Raster, spread: number, seed: number): void {
  if (spread === 0) return;
  const uniform = mulberry(seed);
  const { width, height, planes } = raster;
  const blur = SPREADS[seed % SPREADS.length];
  const shared = grainOf(width, height, blur, uniform);
  for (const plane of planes) {
    const own = grainOf(width, height, blur, uniform);
    for (let i = 0; i < own.length; i++)
      plane[i] = Math.max(0, Math.min(255, Math.round(plane[i] + spread * (0.8 * shared[i] + 0.6 * own[i]))));
  }
}
