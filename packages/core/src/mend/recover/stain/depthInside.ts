import type { Rect } from '../../../raster/rect.ts';
import { distanceToSet } from '../../../target/distanceTransform.ts';
import { polygonPixels } from '../../../target/polygonPixels.ts';
import type { Point } from '../../../target/target.ts';

/** So near a border depths are measured from the border itself, in pixels; beyond from whole pixels, to half of one. */
const NEAR = 8;

/**
 * How deep the centre of each pixel of a rectangle lies inside a closed outline, in pixels from its border; below 0 outside.
 */
export function depthInside(points: readonly Point[], rect: Rect): Float32Array {
  const { left, top, width, height } = rect;
  const inside = polygonPixels(points, rect);
  const toInside = distanceToSet(inside, width, height);
  const toOutside = distanceToSet(
    inside.map((is) => 1 - is),
    width,
    height,
  );
  const near = new Float32Array(inside.length).fill(NEAR);
  points.forEach(([ax, ay], i) => {
    const [bx, by] = points[(i + 1) % points.length];
    const [dx, dy] = [bx - ax, by - ay];
    const length2 = dx * dx + dy * dy || 1;
    const first = Math.max(0, Math.floor(Math.min(ax, bx) - NEAR - left));
    const last = Math.min(width - 1, Math.ceil(Math.max(ax, bx) + NEAR - left));
    const end = Math.min(height - 1, Math.ceil(Math.max(ay, by) + NEAR - top));
    for (let row = Math.max(0, Math.floor(Math.min(ay, by) - NEAR - top)); row <= end; row++)
      for (let column = first; column <= last; column++) {
        const [x, y] = [left + column + 0.5 - ax, top + row + 0.5 - ay];
        const along = Math.min(1, Math.max(0, (x * dx + y * dy) / length2));
        const [awayX, awayY] = [x - along * dx, y - along * dy];
        const away = Math.sqrt(awayX * awayX + awayY * awayY);
        if (away < near[row * width + column]) near[row * width + column] = away;
      }
  });
  return near.map((away, i) => {
    const sign = inside[i] ? 1 : -1;
    return sign * (away < NEAR ? away : Math.max(NEAR, (inside[i] ? toOutside[i] : toInside[i]) - 0.5));
  });
}
