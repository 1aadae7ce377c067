import type { FloatPlane } from '../raster/float.ts';
import { VALUE, holding, kernels, layOut, takeFloats } from '../kernels/kernels.ts';

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

/**
 * The same between places in the memory of the kernels, which must be held ({@link holding}).
 *
 * @param onto where it is written; may be where it comes from
 */
export function blurHeld(from: number, onto: number, width: number, height: number, sigma: number): void {
  const half = halfKernel(sigma);
  const radius = half.length - 1;
  const { blurRows, blurColumns } = kernels();
  const [rows, weights, padded] = layOut([VALUE * width * height, half, VALUE * (width + 2 * radius)]);
  blurRows(from, rows, width, height, weights, radius, padded);
  blurColumns(rows, onto, width, height, weights, radius);
}

/**
 * Gaussian blur of standard deviation `sigma` pixels (above 0); beyond the border the nearest sample counts.
 *
 * @returns a plane of the same sides; the light is that of what is blurred
 */
export const gaussianBlur = ({ width, height, data }: FloatPlane, sigma: number): FloatPlane =>
  holding([data], (place) => {
    blurHeld(place, place, width, height, sigma);
    return { width, height, data: takeFloats(place, width * height) };
  });
