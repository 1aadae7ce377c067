import type { Rect } from '../raster/rect.ts';
import type { Point } from './target.ts';

/**
 * Marks the pixels of a rectangle whose centres lie inside a closed polygon (even-odd), row after row. Takes time by the
 * rows and the corners, not by their product with the columns.
 *
 * @param points in pixels of the upright original, at least three; a pixel's centre lies half a pixel from its
 *   corner
 * @returns 1 inside and 0 outside, `width * height` values
 */
export function polygonPixels(points: readonly Point[], { left, top, width, height }: Rect): Uint8Array {
  const crossings: number[][] = Array.from({ length: height }, () => []);
  points.forEach(([ax, ay], i) => {
    const [bx, by] = points[(i + 1) % points.length];
    const [low, high] = [Math.min(ay, by), Math.max(ay, by)];
    // Rows whose middle lies from `low` on and below `high`.
    const first = Math.max(0, Math.ceil(low - top - 0.5));
    const end = Math.min(height, Math.ceil(high - top - 0.5));
    for (let row = first; row < end; row++) {
      const y = top + row + 0.5;
      crossings[row].push(ax + ((y - ay) / (by - ay)) * (bx - ax) - left);
    }
  });
  const inside = new Uint8Array(width * height);
  crossings.forEach((xs, row) => {
    xs.sort((a, b) => a - b);
    for (let k = 0; k + 1 < xs.length; k += 2) {
      const from = Math.max(0, Math.ceil(xs[k] - 0.5));
      const to = Math.min(width, Math.ceil(xs[k + 1] - 0.5));
      if (to > from) inside.fill(1, row * width + from, row * width + to);
    }
  });
  return inside;
}
