import { contours } from 'd3-contour';
import { signedArea } from './signedArea.ts';
import type { Point } from './target.ts';

/** The borders of some pixels. */
export interface PixelRings {
  readonly outer: readonly Point[];
  readonly holes: readonly (readonly Point[])[];
}

/**
 * The borders of pixels that hang together, half way between their middles and those beside them (marching squares).
 *
 * @param part indices of the pixels, row after row
 * @param width of the picture
 * @returns in its pixels; of several parts the largest
 */
export function pixelRings(part: readonly number[], width: number): PixelRings {
  let [left, top, right, bottom] = [Infinity, Infinity, -1, -1];
  for (const i of part) {
    left = Math.min(left, i % width);
    right = Math.max(right, i % width);
    top = Math.min(top, Math.floor(i / width));
    bottom = Math.max(bottom, Math.floor(i / width));
  }
  // One pixel is left free all around, so that every border is closed.
  const [columns, rows] = [right - left + 3, bottom - top + 3];
  const inside = new Array<number>(columns * rows).fill(0);
  for (const i of part) inside[(Math.floor(i / width) - top + 1) * columns + (i % width) - left + 1] = 1;
  const [{ coordinates }] = contours().size([columns, rows]).smooth(false).thresholds([0.5])(inside);
  const polygons = coordinates.map((polygon) =>
    polygon.map((ring) => ring.slice(0, -1).map(([x, y]): Point => [x + left - 1, y + top - 1])),
  );
  const sizeOf = ([outer]: readonly (readonly Point[])[]): number => Math.abs(signedArea(outer));
  const [outer, ...holes] = polygons.reduce((most, one) => (sizeOf(one) > sizeOf(most) ? one : most));
  return { outer, holes };
}
