import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';

/** Half a normalised Gaussian, centre first, cut at three and a half sigma. */
function halfKernel(sigma: number): Float32Array {
  const radius = Math.max(1, Math.round(3.5 * sigma));
  const half = Float32Array.from({ length: radius + 1 }, (_, i) => Math.exp(-(i * i) / (2 * sigma * sigma)));
  let total = half[0];
  for (let i = 1; i <= radius; i++) total += 2 * half[i];
  return half.map((weight) => weight / total);
}

/** Blurs every row of `data` and writes the result turned by its diagonal, so that two calls blur both ways. */
function blurRowsTransposed(
  data: Float32Array,
  width: number,
  height: number,
  half: Float32Array,
): Float32Array {
  const radius = half.length - 1;
  const turned = new Float32Array(width * height);
  const padded = new Float32Array(width + 2 * radius);
  for (let y = 0; y < height; y++) {
    const row = y * width;
    padded.fill(data[row], 0, radius);
    padded.set(data.subarray(row, row + width), radius);
    padded.fill(data[row + width - 1], radius + width);
    for (let x = 0; x < width; x++) {
      const centre = x + radius;
      let sum = half[0] * padded[centre];
      for (let i = 1; i <= radius; i++) sum += half[i] * (padded[centre - i] + padded[centre + i]);
      turned[x * height + y] = sum;
    }
  }
  return turned;
}

/** Gaussian blur of standard deviation `sigma` pixels (above 0); beyond the border the nearest sample counts. */
export function gaussianBlur(plane: FloatPlane, sigma: number): FloatPlane {
  const { width, height } = plane;
  const half = halfKernel(sigma);
  const blurred = createFloatPlane(width, height);
  const turned = blurRowsTransposed(plane.data, width, height, half);
  blurred.data.set(blurRowsTransposed(turned, height, width, half));
  return blurred;
}
