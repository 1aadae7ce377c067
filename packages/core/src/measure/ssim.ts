import { gaussianBlur } from '../filter/gaussian.ts';
import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';

/** The constants of Wang, Bovik, Sheikh, Simoncelli 2004: an 11-tap window of sigma 1.5, K1 0.01, K2 0.03. */
const SIGMA = 1.5;
const C1 = 0.01 ** 2;
const C2 = 0.03 ** 2;

const product = (a: FloatPlane, b: FloatPlane): FloatPlane => {
  const out = createFloatPlane(a.width, a.height);
  for (let i = 0; i < out.data.length; i++) out.data[i] = a.data[i] * b.data[i];
  return out;
};

/**
 * The map of structural similarity of two planes of values 0 to 1, at full size, 1 where they are equal.
 * (Wang, Bovik, Sheikh, Simoncelli 2004. At the borders the nearest sample counts.)
 */
export function ssimMap(a: FloatPlane, b: FloatPlane): FloatPlane {
  const [meanA, meanB] = [gaussianBlur(a, SIGMA), gaussianBlur(b, SIGMA)];
  const squareA = gaussianBlur(product(a, a), SIGMA);
  const squareB = gaussianBlur(product(b, b), SIGMA);
  const cross = gaussianBlur(product(a, b), SIGMA);
  const map = createFloatPlane(a.width, a.height);
  for (let i = 0; i < map.data.length; i++) {
    const [ma, mb] = [meanA.data[i], meanB.data[i]];
    const varianceA = squareA.data[i] - ma * ma;
    const varianceB = squareB.data[i] - mb * mb;
    const covariance = cross.data[i] - ma * mb;
    map.data[i] =
      ((2 * ma * mb + C1) * (2 * covariance + C2)) /
      ((ma * ma + mb * mb + C1) * (varianceA + varianceB + C2));
  }
  return map;
}

/** The mean of a map over the pixels where `inside` is above 0 (everywhere without it). */
export function meanOver(map: FloatPlane, inside?: Uint8Array): number {
  let sum = 0;
  let count = 0;
  for (let i = 0; i < map.data.length; i++) {
    if (inside && !inside[i]) continue;
    sum += map.data[i];
    count++;
  }
  return count > 0 ? sum / count : 0;
}
