import type { FloatPlane } from '../raster/float.ts';
import { kernels, layOut, takeFloats } from './kernels.ts';

/** How far a blur looks around, in pixels: three and a half sigma. */
export const blurReach = (sigma: number): number => Math.max(1, Math.round(3.5 * sigma));

/** Half a normalised Gaussian, centre first. */
function halfKernel(sigma: number): Float32Array {
  const radius = blurReach(sigma);
  const half = Float32Array.from({ length: radius + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)));
  let total = half[0];
  for (let i = 1; i <= radius; i++) total += 2 * half[i];
  return half.map((weight) => weight / total);
}

/** Bytes of a sample. */
const SAMPLE = 4;

/** Gaussian blur of standard deviation `sigma` pixels (above 0); beyond the border the nearest sample counts. */
export function gaussianBlur({ width, height, data }: FloatPlane, sigma: number): FloatPlane {
  const half = halfKernel(sigma);
  const radius = half.length - 1;
  const { blurRows, blurColumns } = kernels();
  const [from, rows, weights, padded] = layOut([data, data.byteLength, half, SAMPLE * (width + 2 * radius)]);
  blurRows(from, rows, width, height, weights, radius, padded);
  blurColumns(rows, from, width, height, weights, radius);
  return { width, height, data: takeFloats(from, width * height) };
}
