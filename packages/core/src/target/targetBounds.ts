import type { Rect } from '../raster/rect.ts';
import type { Point, Target } from './target.ts';

function boundsOfPoints(points: readonly Point[], reach: number): Rect {
  let [minX, minY, maxX, maxY] = [Infinity, Infinity, -Infinity, -Infinity];
  for (const [x, y] of points) {
    minX = Math.min(minX, x);
    minY = Math.min(minY, y);
    maxX = Math.max(maxX, x);
    maxY = Math.max(maxY, y);
  }
  const left = Math.floor(minX - reach);
  const top = Math.floor(minY - reach);
  return { left, top, width: Math.ceil(maxX + reach) - left, height: Math.ceil(maxY + reach) - top };
}

/**
 * The smallest rectangle of whole pixels that holds the target grown by `reach` pixels. It may leave the picture.
 *
 * @param target in pixels of the upright original
 */
export function targetBounds(target: Target, reach: number): Rect {
  switch (target.shape) {
    case 'disc':
      return boundsOfPoints([[target.x, target.y]], target.r + reach);
    case 'stroke':
      return boundsOfPoints(target.points, target.width / 2 + reach);
    case 'outline':
      return boundsOfPoints(target.points, reach);
    case 'mask': {
      const { left, top, width, height } = target;
      const corners: Point[] = [
        [left, top],
        [left + width, top + height],
      ];
      return boundsOfPoints(corners, reach);
    }
  }
}
