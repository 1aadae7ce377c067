import type { Point } from './target.ts';

/** Area of a closed polygon in pixels (shoelace formula): above 0 where it runs clockwise as the picture is seen. */
export const signedArea = (points: readonly Point[]): number =>
  points.reduce((sum, [x, y], i) => {
    const [nx, ny] = points[(i + 1) % points.length];
    return sum + x * ny - nx * y;
  }, 0) / 2;
