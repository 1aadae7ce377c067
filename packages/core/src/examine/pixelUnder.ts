import type { Raster } from '../raster/raster.ts';

/** Index of the pixel under a place; beyond the border the nearest one counts. */
export function pixelUnder({ width, height, stride }: Raster, x: number, y: number): number {
  const column = Math.min(width - 1, Math.max(0, Math.floor(x)));
  const row = Math.min(height - 1, Math.max(0, Math.floor(y)));
  return row * stride + column;
}
