import type { Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';

/**
 * Errors of the recovered value between which trust falls from 1 to 0, in multiples of the surroundings' texture:
 * what a heal would put there is off by about one and a half of it. In calm places a few codes of 255 show already.
 */
const TRUSTED = 1.2;
const DOUBTED = 3 * TRUSTED;
const LEAST_TEXTURE = 5;

/** What is carried across a thin line is off by this share of the texture around. */
const CARRIED = 0.6;
const LEAST_CARRIED = 2;

/** Texture where no veil lies: mean step between neighbours in a row, as a standard deviation, in codes of 255. */
function textureAround(amount: Float32Array, { width, height, stride, planes, depth }: Raster): number {
  let [sum, count] = [0, 0];
  for (let y = 0; y < height; y++) {
    for (let x = 2; x < width; x++) {
      const i = y * width + x;
      if (amount[i] > 0 || amount[i - 2] > 0) continue;
      sum += Math.abs(planes[0][y * stride + x] - planes[0][y * stride + x - 2]);
      count++;
    }
  }
  // A mean absolute difference of two normal values is 1.13 standard deviations.
  return count > 0 ? ((sum / count / 1.13) * 255) / fullScale(depth) : 0;
}

/**
 * How far each pixel of an undone spot can be trusted, 0 to 1, by its error against the texture around: 0 where too
 * little light came through.
 *
 * @param error standard errors in codes of 255
 */
export function trustOfSpot(error: Float32Array, amount: Float32Array, here: Raster): Float32Array {
  const trusted = TRUSTED * Math.max(LEAST_TEXTURE, textureAround(amount, here));
  const doubted = (DOUBTED / TRUSTED) * trusted;
  return error.map((one) => Math.min(1, Math.max(0, (doubted - one) / (doubted - trusted))));
}

/**
 * How much of each pixel of an undone line is kept against what is carried across from its sides, 0 to 1: the two are
 * weighed by the inverse of their variances.
 *
 * @param error standard errors in codes of 255
 */
export function trustOfLine(error: Float32Array, amount: Float32Array, here: Raster): Float32Array {
  const carried = CARRIED * Math.max(LEAST_CARRIED, textureAround(amount, here));
  return error.map((one) => (one === Infinity ? 0 : carried ** 2 / (carried ** 2 + one ** 2)));
}

/** How much of a fault can be recovered, 0 to 1: the mean trust of its pixels, those deeper in it counting more. */
export function recoverability(amount: Float32Array, trust: Float32Array): number {
  let [sum, total] = [0, 0];
  for (let i = 0; i < amount.length; i++) {
    sum += amount[i] * trust[i];
    total += amount[i];
  }
  return total > 0 ? sum / total : 1;
}
