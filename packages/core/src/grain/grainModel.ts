import { lumaPlane } from '../raster/float.ts';
import type { Raster } from '../raster/raster.ts';
import { fullScale } from '../raster/raster.ts';
import { LUMA } from '../light/luma.ts';
import { colourPlanes } from '../raster/patch.ts';
import { KERNEL_SIDE } from './kernelSide.ts';
import { measureGrain } from './measureGrain.ts';
import { noiseTable } from './noiseTable.ts';

/** A picture's grain: how strong by brightness, how coarse, and how its colours go together. */
export interface GrainModel {
  /** Standard deviation in luma in 16 even bands of brightness, as shares of full scale, encoded. */
  readonly noise: readonly number[];
  /**
   * A square kernel of odd side, row after row, of energy 1: white noise run through it has the picture's spectrum.
   * (A texton: Galerne, Leclaire, Moisan 2014, after random phase noise, Galerne, Gousseau, Morel 2011.)
   */
  readonly kernel: readonly number[];
  /** How channel c is put together from independent noises, rows of a lower triangle; luma then has deviation 1. */
  readonly mix: readonly (readonly number[])[];
}

/** Side of the blocks whose spectra are averaged, in pixels. */
const BLOCK = 32;
/** So many of the calmest blocks are believed: texture of the subject can only add. */
const BLOCKS = 64;
/** The very calmest are left out: smudges, or grain that is weak by accident. */
const SKIPPED = 0.2;
/** Blocks that are clipped tell nothing: the mean must stay this far from both ends. */
const CLIPPED = 0.02;

interface Block {
  readonly left: number;
  readonly top: number;
  readonly luma: Float64Array;
  /** Deviation of the detail against what is usual at this brightness. */
  readonly excess: number;
}

/** Takes the plane of least squares off a block, so that a gradient is no grain. */
function detrended(data: ArrayLike<number>, stride: number, left: number, top: number): Float64Array {
  const out = new Float64Array(BLOCK * BLOCK);
  let [sum, alongX, alongY, squares] = [0, 0, 0, 0];
  const middle = (BLOCK - 1) / 2;
  for (let y = 0; y < BLOCK; y++)
    for (let x = 0; x < BLOCK; x++) {
      const value = data[(top + y) * stride + left + x];
      out[y * BLOCK + x] = value;
      sum += value;
      alongX += value * (x - middle);
      alongY += value * (y - middle);
      squares += (x - middle) ** 2;
    }
  for (let y = 0; y < BLOCK; y++)
    for (let x = 0; x < BLOCK; x++)
      out[y * BLOCK + x] -=
        sum / out.length + (alongX / squares) * (x - middle) + (alongY / squares) * (y - middle);
  return out;
}

const COS = Float64Array.from({ length: BLOCK }, (_, k) => Math.cos((2 * Math.PI * k) / BLOCK));
const SIN = Float64Array.from({ length: BLOCK }, (_, k) => Math.sin((2 * Math.PI * k) / BLOCK));

/** The discrete Fourier transform of a block, row by row and then column by column. */
function transform(real: Float64Array, imaginary: Float64Array): [Float64Array, Float64Array] {
  const along = (
    re: Float64Array,
    im: Float64Array,
    step: number,
    row: number,
  ): [Float64Array, Float64Array] => {
    const [outRe, outIm] = [new Float64Array(re.length), new Float64Array(re.length)];
    for (let r = 0; r < BLOCK; r++)
      for (let k = 0; k < BLOCK; k++) {
        let [a, b] = [0, 0];
        for (let n = 0; n < BLOCK; n++) {
          const [c, s] = [COS[(k * n) % BLOCK], SIN[(k * n) % BLOCK]];
          const at = r * row + n * step;
          a += re[at] * c + im[at] * s;
          b += im[at] * c - re[at] * s;
        }
        outRe[r * row + k * step] = a;
        outIm[r * row + k * step] = b;
      }
    return [outRe, outIm];
  };
  return along(...along(real, imaginary, 1, BLOCK), BLOCK, 1);
}

/** Falls to nothing at the border of a block, which would else leak into all frequencies (Hann). */
const WINDOW = Float64Array.from({ length: BLOCK }, (_, k) => Math.sin((Math.PI * (k + 0.5)) / BLOCK) ** 2);

/** Power of a block's frequencies. */
function powerOf(block: Float64Array): Float64Array {
  const windowed = block.map((value, i) => value * WINDOW[i % BLOCK] * WINDOW[Math.floor(i / BLOCK)]);
  const [re, im] = transform(windowed, new Float64Array(block.length));
  return re.map((value, i) => (value * value + im[i] * im[i]) / block.length);
}

const variance = (block: Float64Array): number =>
  block.reduce((sum, value) => sum + value * value, 0) / block.length;

/** The calmest blocks of a picture, judged against the noise of their brightness. */
function calmBlocks(raster: Raster, noise: readonly number[]): Block[] {
  const { data, width, height } = lumaPlane(raster);
  const blocks: Block[] = [];
  for (let top = 0; top + BLOCK <= height; top += BLOCK)
    for (let left = 0; left + BLOCK <= width; left += BLOCK) {
      let mean = 0;
      for (let y = top; y < top + BLOCK; y++)
        for (let x = left; x < left + BLOCK; x++) mean += data[y * width + x];
      mean /= BLOCK * BLOCK;
      if (mean < CLIPPED || mean > 1 - CLIPPED) continue;
      const luma = detrended(data, width, left, top);
      const usual = noise[Math.min(noise.length - 1, Math.floor(mean * noise.length))];
      blocks.push({ left, top, luma, excess: Math.sqrt(variance(luma)) / usual });
    }
  const from = Math.floor(SKIPPED * blocks.length);
  return blocks.sort((a, b) => a.excess - b.excess).slice(from, from + BLOCKS);
}

/** A kernel of no phase whose spectrum is the square root of a power spectrum, cut to its middle, of energy 1. */
function kernelOf(power: Float64Array): number[] {
  const amplitude = power.map((value, i) => (i === 0 ? 0 : Math.sqrt(Math.max(0, value))));
  const [wave] = transform(amplitude, new Float64Array(amplitude.length));
  const half = (KERNEL_SIDE - 1) / 2;
  const kernel: number[] = [];
  for (let y = -half; y <= half; y++)
    for (let x = -half; x <= half; x++)
      kernel.push(wave[((y + BLOCK) % BLOCK) * BLOCK + ((x + BLOCK) % BLOCK)]);
  const energy = Math.sqrt(kernel.reduce((sum, value) => sum + value * value, 0));
  return energy > 0
    ? kernel.map((value) => value / energy)
    : kernel.map((_, i) => (i === (kernel.length - 1) / 2 ? 1 : 0));
}

/** The lower triangle whose product with itself is a covariance; what is not positive counts as nothing. */
function lowerTriangle(covariance: readonly (readonly number[])[]): number[][] {
  const rows: number[][] = covariance.map(() => []);
  covariance.forEach((row, i) => {
    for (let j = 0; j <= i; j++) {
      let sum = row[j];
      for (let k = 0; k < j; k++) sum -= rows[i][k] * rows[j][k];
      rows[i][j] = i === j ? Math.sqrt(Math.max(0, sum)) : rows[j][j] > 0 ? sum / rows[j][j] : 0;
    }
  });
  return rows;
}

/** How the channels' grain goes together, in units in which that of luma has variance 1. */
function mixOf(raster: Raster, blocks: readonly Block[]): number[][] {
  const planes = colourPlanes(raster);
  if (planes.length === 1 || blocks.length === 0) return [[1]];
  const covariance = planes.map(() => planes.map(() => 0));
  for (const { left, top, luma } of blocks) {
    const own = variance(luma);
    if (own === 0) continue;
    const parts = planes.map((plane) => detrended(plane, raster.stride, left, top));
    parts.forEach((one, i) =>
      parts.forEach((other, j) => {
        let sum = 0;
        for (let k = 0; k < one.length; k++) sum += one[k] * other[k];
        covariance[i][j] += sum / one.length / fullScale(raster.depth) ** 2 / own;
      }),
    );
  }
  const scaled = covariance.map((row) => row.map((value) => value / blocks.length));
  const ofLuma = LUMA.reduce(
    (sum, w, i) => sum + LUMA.reduce((part, v, j) => part + w * v * scaled[i][j], 0),
    0,
  );
  return lowerTriangle(scaled.map((row) => row.map((value) => (ofLuma > 0 ? value / ofLuma : 0))));
}

/**
 * What a deviation measured by the mask, which takes grain for white, must be multiplied by: what the calm blocks really
 * deviate against it. Coarser grain answers the mask less.
 */
function whiteToOwn(blocks: readonly Block[]): number {
  if (blocks.length === 0) return 1;
  return blocks.map(({ excess }) => excess).sort((a, b) => a - b)[blocks.length >> 1];
}

const rounded = (value: number): number => Number(value.toPrecision(5));

/**
 * Measures a picture's grain on its calmest parts. Works on encoded values.
 *
 * @param raster encoded values, 8 or 16 bit
 * @returns deviations in encoded values of 0 to 1, by brightness; how its colours go together; its spectrum
 */
export function measureGrainModel(raster: Raster): GrainModel {
  const noise = noiseTable(measureGrain(raster));
  const blocks = calmBlocks(raster, noise);
  const power = new Float64Array(BLOCK * BLOCK);
  for (const { luma } of blocks) {
    const own = variance(luma);
    if (own > 0) powerOf(luma).forEach((value, i) => (power[i] += value / own));
  }
  const kernel = kernelOf(power).map(rounded);
  const truer = whiteToOwn(blocks);
  return {
    noise: noise.map((sigma) => rounded(sigma * truer)),
    kernel,
    mix: mixOf(raster, blocks).map((row) => row.map(rounded)),
  };
}
