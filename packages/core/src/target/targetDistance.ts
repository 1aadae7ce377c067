import type { Rect } from '../raster/rect.ts';
import { distanceToSet } from './distanceTransform.ts';
import { spansOfMask } from './spanRows.ts';
import type { MaskTarget, OutlineTarget, Point, StrokeTarget, Target } from './target.ts';

/** Distance of a point from the segment a to b. */
function distanceToSegment(x: number, y: number, a: Point, b: Point): number {
  const dx = b[0] - a[0];
  const dy = b[1] - a[1];
  const length2 = dx * dx + dy * dy;
  const to = (x - a[0]) * dx + (y - a[1]) * dy;
  const along = length2 === 0 || to <= 0 ? 0 : to >= length2 ? 1 : to / length2;
  const awayX = x - a[0] - along * dx;
  const awayY = y - a[1] - along * dy;
  return Math.sqrt(awayX * awayX + awayY * awayY);
}

function distanceToRun(x: number, y: number, points: readonly Point[], closed: boolean): number {
  let nearest = distanceToSegment(x, y, points[0], points[0]);
  for (let i = 1; i < points.length; i++) {
    const away = distanceToSegment(x, y, points[i - 1], points[i]);
    if (away < nearest) nearest = away;
  }
  return closed ? Math.min(nearest, distanceToSegment(x, y, points[points.length - 1], points[0])) : nearest;
}

/** Distance from a stroke whose width follows the pen's pressure, straight between the points. */
function distanceToPressed(
  x: number,
  y: number,
  { points, width }: StrokeTarget,
  pressure: readonly number[],
): number {
  const [px, py] = points[0];
  let nearest = Math.hypot(x - px, y - py) - (width * pressure[0]) / 2;
  // Told millions of times for a long line: nothing is made anew in here.
  for (let i = 1; i < points.length; i++) {
    const a = points[i - 1];
    const b = points[i];
    const dx = b[0] - a[0];
    const dy = b[1] - a[1];
    const length2 = dx * dx + dy * dy;
    const to = (x - a[0]) * dx + (y - a[1]) * dy;
    const along = length2 === 0 || to <= 0 ? 0 : to >= length2 ? 1 : to / length2;
    const awayX = x - a[0] - along * dx;
    const awayY = y - a[1] - along * dy;
    const half = (width * (pressure[i - 1] + along * (pressure[i] - pressure[i - 1]))) / 2;
    const away = Math.sqrt(awayX * awayX + awayY * awayY) - half;
    if (away < nearest) nearest = away;
  }
  return nearest;
}

/** Distance of a point from a stroke's course, in pixels; its width does not count. */
export const distanceToStroke = (x: number, y: number, { points }: StrokeTarget): number =>
  distanceToRun(x, y, points, false);

function isInsidePolygon(x: number, y: number, points: readonly Point[]): boolean {
  let inside = false;
  for (let i = 0, j = points.length - 1; i < points.length; j = i++) {
    const [ax, ay] = points[i];
    const [bx, by] = points[j];
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside;
  }
  return inside;
}

/** Distance of a point from an area, in pixels; 0 inside. */
export const distanceToOutline = (x: number, y: number, { points }: OutlineTarget): number =>
  isInsidePolygon(x, y, points) ? 0 : distanceToRun(x, y, points, true);

/** Marks the pixels of a mask target on a rectangle of the picture. */
export function maskPixels(target: MaskTarget, rect: Rect): Uint8Array {
  const { left, top, width, height } = rect;
  const inside = new Uint8Array(width * height);
  const spans = spansOfMask(target);
  const first = Math.max(0, top - spans.top);
  const end = Math.min(spans.rows.length, top + height - spans.top);
  for (let row = first; row < end; row++) {
    const start = (spans.top + row - top) * width;
    const ends = spans.rows[row];
    for (let k = 0; k < ends.length; k += 2) {
      const from = Math.max(0, ends[k] - left);
      const to = Math.min(width, ends[k + 1] - left);
      if (to > from) inside.fill(1, start + from, start + to);
    }
  }
  return inside;
}

/**
 * Distance in pixels from the centre of each pixel of `rect` to the target; 0 and below is inside. Inside an
 * outline or a mask the depth is not measured and reads 0.
 */
export function targetDistance(target: Target, rect: Rect): Float32Array {
  const { left, top, width, height } = rect;
  if (target.shape === 'mask') {
    const distance = distanceToSet(maskPixels(target, rect), width, height);
    // Pixels are squares: half a pixel of the way to a centre lies inside the nearest one.
    for (let i = 0; i < distance.length; i++) distance[i] = Math.max(0, distance[i] - 0.5);
    return distance;
  }
  const distance = new Float32Array(width * height);
  for (let row = 0; row < height; row++) {
    const y = top + row + 0.5;
    for (let column = 0; column < width; column++)
      distance[row * width + column] = distanceAt(target, left + column + 0.5, y);
  }
  return distance;
}

function distanceAt(target: Exclude<Target, MaskTarget>, x: number, y: number): number {
  switch (target.shape) {
    case 'disc':
      return Math.sqrt((x - target.x) ** 2 + (y - target.y) ** 2) - target.r;
    case 'stroke':
      return target.pressure
        ? distanceToPressed(x, y, target, target.pressure)
        : distanceToRun(x, y, target.points, false) - target.width / 2;
    case 'outline':
      return distanceToOutline(x, y, target);
  }
}
