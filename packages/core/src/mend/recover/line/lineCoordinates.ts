import type { Rect } from '../../../raster/rect.ts';
import type { Point } from '../../../target/target.ts';

/** Where the pixels around a course lie on it. */
export interface LineCoordinates {
  /** Signed distance of each pixel's centre from the course, in pixels, row after row; infinite beyond the reach. */
  readonly across: Float32Array;
  /** Place of the nearest point of the course: the number of the point before it and the share of the way on. */
  readonly place: Float32Array;
}

/**
 * Lays a course on the pixels of a rectangle, as far as `reach` pixels to both sides. Time grows with the length of
 * the course, not with the rectangle.
 */
export function lineCoordinates(points: readonly Point[], rect: Rect, reach: number): LineCoordinates {
  const { left, top, width, height } = rect;
  const across = new Float32Array(width * height).fill(Infinity);
  const place = new Float32Array(width * height);
  for (let k = 0; k < Math.max(1, points.length - 1); k++) {
    const [ax, ay] = points[k];
    const [bx, by] = points[Math.min(k + 1, points.length - 1)];
    const [dx, dy] = [bx - ax, by - ay];
    const length2 = dx * dx + dy * dy;
    const endX = Math.min(width, Math.ceil(Math.max(ax, bx) + reach) - left);
    const endY = Math.min(height, Math.ceil(Math.max(ay, by) + reach) - top);
    for (let row = Math.max(0, Math.floor(Math.min(ay, by) - reach) - top); row < endY; row++) {
      const y = top + row + 0.5 - ay;
      for (let column = Math.max(0, Math.floor(Math.min(ax, bx) - reach) - left); column < endX; column++) {
        const x = left + column + 0.5 - ax;
        const t = length2 === 0 ? 0 : Math.min(1, Math.max(0, (x * dx + y * dy) / length2));
        const [awayX, awayY] = [x - t * dx, y - t * dy];
        const away = Math.sqrt(awayX * awayX + awayY * awayY);
        const i = row * width + column;
        if (away > reach || away >= Math.abs(across[i])) continue;
        across[i] = dx * awayY - dy * awayX < 0 ? -away : away;
        place[i] = k + t;
      }
    }
  }
  return { across, place };
}
