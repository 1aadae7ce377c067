import type { DiscTarget, Point } from './target.ts';

const CORNERS = 24;

/**
 * A disc as a closed polygon.
 *
 * @returns corners in pixels, clockwise as the picture is seen
 */
export const discOutline = ({ x, y, r }: Pick<DiscTarget, 'x' | 'y' | 'r'>): Point[] =>
  Array.from({ length: CORNERS }, (_, k) => [
    x + r * Math.cos((2 * Math.PI * k) / CORNERS),
    y + r * Math.sin((2 * Math.PI * k) / CORNERS),
  ]);
