import type { FloatPlane } from '../raster/float.ts';

/** Mean squared error over the pixels where `inside` is above 0 (everywhere without it). */
export function meanSquaredError(a: FloatPlane, b: FloatPlane, inside?: Uint8Array): number {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < a.data.length; i++) {
    if (inside && !inside[i]) continue;
    sum += (a.data[i] - b.data[i]) ** 2;
    count++;
  }
  return count > 0 ? sum / count : 0;
}

/** Peak signal-to-noise ratio in decibels for a mean squared error of values whose peak is 1; infinite for equal ones. */
export const psnrOf = (squaredError: number): number => -10 * Math.log10(squaredError);
