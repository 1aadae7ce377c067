import { columnOf } from '../measure/columnOf.ts';
import type { Rect } from '../raster/rect.ts';
import { distanceToSet } from './distanceTransform.ts';
import { spansOfMask } from './spanRows.ts';
import type { DiscTarget, MaskTarget, OutlineTarget, Point, StrokeTarget, Target } from './target.ts';

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

/** Segments of a course by the number of their second point. */
interface Segments {
  readonly numbers: Int32Array;
  readonly count: number;
}

/**
 * Distance from the nearest of some segments of a stroke, or from its first point.
 *
 * @param halves half its width at each point, straight between them
 */
function distanceToSegments(
  x: number,
  y: number,
  points: readonly Point[],
  halves: Float64Array,
  { numbers, count }: Segments,
): number {
  const [px, py] = points[0];
  let nearest = Math.sqrt((x - px) * (x - px) + (y - py) * (y - py)) - halves[0];
  // Measured millions of times for a long line: nothing is made anew in here.
  for (let k = 0; k < count; k++) {
    const i = numbers[k];
    const a = points[i - 1];
    const b = points[i];
    const dx = b[0] - a[0];
    const dy = b[1] - a[1];
    const length2 = dx * dx + dy * dy;
    const to = (x - a[0]) * dx + (y - a[1]) * dy;
    const along = length2 === 0 || to <= 0 ? 0 : to >= length2 ? 1 : to / length2;
    const awayX = x - a[0] - along * dx;
    const awayY = y - a[1] - along * dy;
    const half = halves[i - 1] + along * (halves[i] - halves[i - 1]);
    const away = Math.sqrt(awayX * awayX + awayY * awayY) - half;
    if (away < nearest) nearest = away;
  }
  return nearest;
}

/** Side of the blocks in which a stroke's segments are sifted, in pixels. */
const BLOCK = 32;
/** What rounding may make of a bound, in pixels. */
const ROUNDING = 1e-6;

/**
 * Distances from a stroke on a rectangle, block by block: of its segments only those are asked at each pixel that may
 * be the nearest somewhere in its block. A long stroke has hundreds, a block a handful.
 */
function strokeDistance(target: StrokeTarget, { left, top, width, height }: Rect): Float32Array {
  const { points, pressure } = target;
  const distance = new Float32Array(width * height);
  const halves = columnOf(Float64Array, points, (_, i) => (target.width * (pressure ? pressure[i] : 1)) / 2);
  const numbers = new Int32Array(points.length);
  const away = new Float64Array(points.length);
  for (let blockTop = 0; blockTop < height; blockTop += BLOCK)
    for (let blockLeft = 0; blockLeft < width; blockLeft += BLOCK) {
      const right = Math.min(width, blockLeft + BLOCK);
      const bottom = Math.min(height, blockTop + BLOCK);
      const reach = Math.hypot(right - blockLeft, bottom - blockTop) / 2 + ROUNDING;
      const x = left + (blockLeft + right) / 2;
      const y = top + (blockTop + bottom) / 2;
      let farthest = Infinity;
      for (let i = 1; i < points.length; i++) {
        away[i] = distanceToSegment(x, y, points[i - 1], points[i]);
        farthest = Math.min(farthest, away[i] + reach - Math.min(halves[i - 1], halves[i]));
      }
      let count = 0;
      for (let i = 1; i < points.length; i++)
        if (away[i] - reach - Math.max(halves[i - 1], halves[i]) <= farthest) numbers[count++] = i;
      const near: Segments = { numbers, count };
      for (let row = blockTop; row < bottom; row++)
        for (let column = blockLeft; column < right; column++)
          distance[row * width + column] = distanceToSegments(
            left + column + 0.5,
            top + row + 0.5,
            points,
            halves,
            near,
          );
    }
  return distance;
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
  if (target.shape === 'stroke') return strokeDistance(target, rect);
  const distance = new Float32Array(width * height);
  for (let row = 0; row < height; row++) {
    const y = top + row + 0.5;
    for (let column = 0; column < width; column++)
      distance[row * width + column] = distanceAt(target, left + column + 0.5, y);
  }
  return distance;
}

function distanceAt(target: DiscTarget | OutlineTarget, x: number, y: number): number {
  return target.shape === 'disc'
    ? Math.sqrt((x - target.x) ** 2 + (y - target.y) ** 2) - target.r
    : distanceToOutline(x, y, target);
}
