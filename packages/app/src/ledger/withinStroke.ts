import type { Point } from '@fennip/core/target';

/** What is drawn over a chart: a region from corner to corner, or a line. In pixels, downwards. */
export interface Stroke {
  readonly shape: 'region' | 'line';
  readonly from: Point;
  readonly to: Point;
}

/** A stroke shorter than this was only a press, in pixels. */
const PRESS = 3;

/**
 * What a stroke takes in: all within a region, or all above a line, carried on straight beyond both of its ends. A
 * press takes in nothing.
 */
export function withinStroke<T>(
  { shape, from, to }: Stroke,
  all: readonly T[],
  placeOf: (one: T) => Point,
): T[] {
  const [dx, dy] = [to[0] - from[0], to[1] - from[1]];
  if (Math.hypot(dx, dy) < PRESS) return [];
  const [left, right] = [Math.min(from[0], to[0]), Math.max(from[0], to[0])];
  const [top, bottom] = [Math.min(from[1], to[1]), Math.max(from[1], to[1])];
  return all.filter((one) => {
    const [x, y] = placeOf(one);
    if (shape === 'region') return x >= left && x <= right && y >= top && y <= bottom;
    // An upright line takes in what lies to its right: what is larger.
    return Math.abs(dx) < 1 ? x >= from[0] : y <= from[1] + ((x - from[0]) / dx) * dy;
  });
}
