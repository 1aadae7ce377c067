import { rectsMeet } from '../raster/rect.ts';
import type { Rect } from '../raster/rect.ts';
import { fromEnds } from '../target/alongStroke.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { coverageAt } from '../target/targetField.ts';
import { targetDistance } from '../target/targetDistance.ts';
import type { PaintStroke } from './mendBase.ts';

/**
 * How much of each pixel of a rectangle is painted in, 0 to 1, row after row.
 * @param fade over so many pixels of its course a stroke fades in and out at its ends
 */
export function paintCoverage(paint: readonly PaintStroke[], rect: Rect, fade = 0): Float32Array {
  const coverage = new Float32Array(rect.width * rect.height);
  if (paint.length === 0 || paint[0].lays === 'out') coverage.fill(1);
  for (const { shape, edge, amount, lays } of paint) {
    if (!rectsMeet(targetBounds(shape, edge), rect)) continue;
    const distance = targetDistance(shape, rect);
    const ends = fade > 0 && shape.shape === 'stroke' ? fromEnds(shape, rect) : null;
    for (let i = 0; i < coverage.length; i++) {
      const faded = ends ? Math.min(1, ends[i] / fade) : 1;
      const share = amount * faded * coverageAt(distance[i], 0, edge);
      coverage[i] = lays === 'in' ? coverage[i] + share * (1 - coverage[i]) : coverage[i] * (1 - share);
    }
  }
  return coverage;
}

/** The rectangle outside of which nothing is painted in; null where painting bounds nothing. */
export function paintBounds(paint: readonly PaintStroke[]): Rect | null {
  if (paint.length === 0 || paint[0].lays === 'out') return null;
  let [left, top, right, bottom] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const { shape, edge, lays } of paint) {
    if (lays === 'out') continue;
    const bounds = targetBounds(shape, edge);
    left = Math.min(left, bounds.left);
    top = Math.min(top, bounds.top);
    right = Math.max(right, bounds.left + bounds.width);
    bottom = Math.max(bottom, bounds.top + bounds.height);
  }
  return { left, top, width: right - left, height: bottom - top };
}
