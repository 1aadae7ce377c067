import type { Rect } from '../raster/rect.ts';
import type { StrokeTarget } from './target.ts';

/**
 * How far along its course the nearest point of a stroke lies from the nearer of its two ends, for each pixel of a
 * rectangle, row after row; in pixels.
 */
export function fromEnds({ points }: StrokeTarget, rect: Rect): Float32Array {
  const lengths = [0];
  for (let i = 1; i < points.length; i++)
    lengths.push(
      lengths[i - 1] + Math.hypot(points[i][0] - points[i - 1][0], points[i][1] - points[i - 1][1]),
    );
  const whole = lengths[lengths.length - 1];
  const out = new Float32Array(rect.width * rect.height);
  for (let row = 0, at = 0; row < rect.height; row++)
    for (let column = 0; column < rect.width; column++, at++) {
      const [x, y] = [rect.left + column + 0.5, rect.top + row + 0.5];
      let nearest = Infinity;
      for (let i = 1; i < points.length; i++) {
        const [ax, ay] = points[i - 1];
        const [dx, dy] = [points[i][0] - ax, points[i][1] - ay];
        const size = dx * dx + dy * dy;
        const along = size === 0 ? 0 : Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / size));
        const away = (x - ax - along * dx) ** 2 + (y - ay - along * dy) ** 2;
        if (away >= nearest) continue;
        nearest = away;
        const length = lengths[i - 1] + along * (lengths[i] - lengths[i - 1]);
        out[at] = Math.min(length, whole - length);
      }
    }
  return out;
}
