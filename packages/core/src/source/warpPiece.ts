import type { Point } from '../target/target.ts';
import type { Warp } from './source.ts';

/** The corners of a pulled piece, from its middle: upper left, upper right, lower right, lower left. */
export const pulledCorners = ({ width, height, by }: Warp): readonly Point[] =>
  [
    [-0.5, -0.5],
    [0.5, -0.5],
    [0.5, 0.5],
    [-0.5, 0.5],
  ].map(([x, y], k): Point => [x * width + by[k].dx, y * height + by[k].dy]);

/** True if the corners still go around in their order, without one that points inwards. */
export function isConvex(corners: readonly Point[]): boolean {
  return corners.every(([x, y], k) => {
    const [nextX, nextY] = corners[(k + 1) % corners.length];
    const [afterX, afterY] = corners[(k + 2) % corners.length];
    return (nextX - x) * (afterY - nextY) - (nextY - y) * (afterX - nextX) > 0;
  });
}

/** From a place on a pulled piece to where it was before; null where there is no such place. Both from the middle. */
export type InverseWarp = (x: number, y: number) => Point | null;

/**
 * The way back from a piece that was pulled at its four corners, by the projective map that takes the corners to one
 * another. (Heckbert 1989, Fundamentals of texture mapping and image warping.)
 */
export function inverseWarp(warp: Warp): InverseWarp {
  const corners = pulledCorners(warp);
  if (!isConvex(corners)) return () => null;
  const [[x0, y0], [x1, y1], [x2, y2], [x3, y3]] = corners;
  const [dx1, dx2, sumX] = [x1 - x2, x3 - x2, x0 - x1 + x2 - x3];
  const [dy1, dy2, sumY] = [y1 - y2, y3 - y2, y0 - y1 + y2 - y3];
  const scale = dx1 * dy2 - dx2 * dy1;
  const g = (sumX * dy2 - dx2 * sumY) / scale;
  const h = (dx1 * sumY - sumX * dy1) / scale;
  const [a, b, c] = [x1 - x0 + g * x1, x3 - x0 + h * x3, x0];
  const [d, e, f] = [y1 - y0 + g * y1, y3 - y0 + h * y3, y0];
  // The inverse of the map from the unit square to the corners, up to a factor.
  const inverse = [
    [e - f * h, c * h - b, b * f - c * e],
    [f * g - d, a - c * g, c * d - a * f],
    [d * h - e * g, b * g - a * h, a * e - b * d],
  ];
  return (x, y) => {
    const [u, v, w] = inverse.map(([kx, ky, k]) => kx * x + ky * y + k);
    return w > 0 ? [(u / w - 0.5) * warp.width, (v / w - 0.5) * warp.height] : null;
  };
}
