/** An axis-parallel rectangle of whole pixels: `left <= x < left + width`, `top <= y < top + height`. */
export interface Rect {
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** True if a rectangle holds no pixel. */
export const isEmpty = (rect: Rect): boolean => rect.width <= 0 || rect.height <= 0;

/** What two rectangles have in common; its sides are 0 or below where that is nothing. */
export function intersectRects(a: Rect, b: Rect): Rect {
  const left = Math.max(a.left, b.left);
  const top = Math.max(a.top, b.top);
  const width = Math.min(a.left + a.width, b.left + b.width) - left;
  const height = Math.min(a.top + a.height, b.top + b.height) - top;
  return { left, top, width: Math.max(0, width), height: Math.max(0, height) };
}

/** The smallest rectangle that holds both; an empty one adds nothing. */
export function uniteRects(a: Rect, b: Rect): Rect {
  if (isEmpty(a)) return b;
  if (isEmpty(b)) return a;
  const left = Math.min(a.left, b.left);
  const top = Math.min(a.top, b.top);
  return {
    left,
    top,
    width: Math.max(a.left + a.width, b.left + b.width) - left,
    height: Math.max(a.top + a.height, b.top + b.height) - top,
  };
}

/** A rectangle with so many pixels more on each side; fewer where `by` is negative. */
export const growRect = (rect: Rect, by: number): Rect => ({
  left: rect.left - by,
  top: rect.top - by,
  width: rect.width + 2 * by,
  height: rect.height + 2 * by,
});

/** The rectangle so many pixels further right and down. */
export const moveRect = (rect: Rect, dx: number, dy: number): Rect => ({
  ...rect,
  left: rect.left + dx,
  top: rect.top + dy,
});

/** True if two rectangles have a pixel in common. */
export const rectsMeet = (a: Rect, b: Rect): boolean => !isEmpty(intersectRects(a, b));

/** True if all of the inner rectangle lies in the outer one. */
export const rectHolds = (outer: Rect, inner: Rect): boolean =>
  inner.left >= outer.left &&
  inner.top >= outer.top &&
  inner.left + inner.width <= outer.left + outer.width &&
  inner.top + inner.height <= outer.top + outer.height;

/** True if a place that need not be a whole pixel lies in a rectangle. */
export const holdsPoint = ({ left, top, width, height }: Rect, x: number, y: number): boolean =>
  x >= left && y >= top && x < left + width && y < top + height;
