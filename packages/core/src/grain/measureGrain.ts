import { lumaPlane } from '../raster/float.ts';
import type { Raster } from '../raster/raster.ts';

/** How strong a picture's grain is at each brightness. */
export interface GrainByBrightness {
  /** Middle of each band of brightness, encoded luma 0 to 1, rising. */
  readonly brightness: readonly number[];
  /** Standard deviation of the grain in that band, in encoded luma; null where the picture has too little of it. */
  readonly sigma: readonly (number | null)[];
}

const BANDS = 16;
/** A band with fewer samples tells nothing. */
const LEAST_SAMPLES = 200;
/**
 * The calm places of each band that are believed, as shares of all from the calmest on: what is rougher holds structure,
 * and the very calmest may be smudges, where the grain is gone.
 */
const CALM = { from: 0.2, to: 0.4 };
/** Side of the blocks that are judged calm or not, in pixels. */
const BLOCK = 8;
/** The blocks that are believed have this share of the mean where there is plain noise alone. */
const CALM_BIAS = 0.906;

/** Mean answer of the noise operator on a block, as a standard deviation. (Immerkaer 1996, his formula 4.) */
function noiseOfBlock(luma: Float32Array, width: number, left: number, top: number): number {
  let sum = 0;
  for (let y = top; y < top + BLOCK; y++)
    for (let x = left; x < left + BLOCK; x++) {
      const i = y * width + x;
      const corners = luma[i - width - 1] + luma[i - width + 1] + luma[i + width - 1] + luma[i + width + 1];
      const sides = luma[i - 1] + luma[i + 1] + luma[i - width] + luma[i + width];
      sum += Math.abs(corners - 2 * sides + 4 * luma[i]);
    }
  return (Math.sqrt(Math.PI / 2) * sum) / (6 * BLOCK * BLOCK);
}

/**
 * Measures a picture's grain by brightness: blocks are sorted by tone, and in each band of tone the calmest are
 * believed, because texture of the subject can only add. Works on encoded luma.
 *
 * @param raster encoded values, 8 or 16 bit
 * @returns deviations in encoded luma of 0 to 1, one for each band of brightness
 */
export function measureGrain(raster: Raster): GrainByBrightness {
  const { data: luma, width, height } = lumaPlane(raster);
  const bands = Array.from({ length: BANDS }, (): number[] => []);
  for (let top = 1; top + BLOCK < height; top += BLOCK)
    for (let left = 1; left + BLOCK < width; left += BLOCK) {
      let tone = 0;
      for (let y = top; y < top + BLOCK; y++)
        for (let x = left; x < left + BLOCK; x++) tone += luma[y * width + x];
      const band = Math.floor((tone / (BLOCK * BLOCK)) * BANDS);
      bands[Math.min(BANDS - 1, band)].push(noiseOfBlock(luma, width, left, top));
    }
  return {
    brightness: bands.map((_, k) => (k + 0.5) / BANDS),
    sigma: bands.map((found) => {
      if (found.length * BLOCK * BLOCK < LEAST_SAMPLES * 4) return null;
      const from = Math.floor(CALM.from * found.length);
      const calm = found
        .sort((a, b) => a - b)
        .slice(from, Math.max(from + 1, Math.ceil(CALM.to * found.length)));
      return calm.reduce((sum, sigma) => sum + sigma, 0) / calm.length / CALM_BIAS;
    }),
  };
}
