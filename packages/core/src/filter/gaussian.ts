import type { FloatPlane } from '../raster/float.ts';
import { createFloatPlane } from '../raster/float.ts';

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

/** Blurs every row of `data` by itself. */
function blurRows(
  data: Float32Array,
  width: number,
  height: number,
  half: Float32Array,
  out: Float32Array,
): void {
  const radius = half.length - 1;
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
      out[row + x] = sum;
    }
  }
}

/** Blurs down the columns, a whole row at a time, so that memory is walked along. */
function blurColumns(
  data: Float32Array,
  width: number,
  height: number,
  half: Float32Array,
  out: Float32Array,
): void {
  const radius = half.length - 1;
  for (let y = 0; y < height; y++) {
    const row = y * width;
    const centre = half[0];
    for (let x = 0; x < width; x++) out[row + x] = centre * data[row + x];
    for (let i = 1; i <= radius; i++) {
      const weight = half[i];
      const upper = Math.max(0, y - i) * width;
      const lower = Math.min(height - 1, y + i) * width;
      for (let x = 0; x < width; x++) out[row + x] += weight * (data[upper + x] + data[lower + x]);
    }
  }
}

/** Gaussian blur of standard deviation `sigma` pixels (above 0); beyond the border the nearest sample counts. */
export function gaussianBlur(plane: FloatPlane, sigma: number): FloatPlane {
  const { width, height } = plane;
  const half = halfKernel(sigma);
  const rows = new Float32Array(width * height);
  blurRows(plane.data, width, height, half, rows);
  const blurred = createFloatPlane(width, height);
  blurColumns(rows, width, height, half, blurred.data);
  return blurred;
}
