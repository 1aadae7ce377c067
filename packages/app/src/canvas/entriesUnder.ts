import type { Point, Target } from '@fennip/core/target';

/** What lies on the picture at a place. */
interface Placed {
  readonly x: number;
  readonly y: number;
  /** The course of a line. */
  readonly path?: readonly Point[];
  /** The border of an area. */
  readonly outline?: readonly Point[];
}

/** The square of the distance from a point to a piece of line. */
function distance2(x: number, y: number, [ax, ay]: Point, [bx, by]: Point): number {
  const [ux, uy] = [bx - ax, by - ay];
  const length2 = ux * ux + uy * uy;
  const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * ux + (y - ay) * uy) / length2)) : 0;
  return (x - ax - t * ux) ** 2 + (y - ay - t * uy) ** 2;
}

/** How far a point lies from a course, in pixels. */
export const distanceToPath = (x: number, y: number, path: readonly Point[]): number =>
  Math.sqrt(
    path.reduce((least, to, i) => Math.min(least, distance2(x, y, path[Math.max(0, i - 1)], to)), Infinity),
  );

/** True if a point lies inside a polygon (even-odd). */
export function isInside(x: number, y: number, points: readonly Point[]): boolean {
  let inside = false;
  points.forEach(([ax, ay], i) => {
    const [bx, by] = points[(i + 1) % points.length];
    if (ay > y !== by > y && x < ax + ((y - ay) / (by - ay)) * (bx - ax)) inside = !inside;
  });
  return inside;
}

/** True if a drawn shape covers a point. */
function covers(target: Target, x: number, y: number): boolean {
  switch (target.shape) {
    case 'disc':
      return Math.hypot(x - target.x, y - target.y) <= target.r;
    case 'stroke':
      return distanceToPath(x, y, target.points) <= target.width / 2;
    case 'outline':
      return isInside(x, y, target.points);
    case 'mask':
      return false;
  }
}

/** A click lies in an area wherever in it it falls. */
const isClickIn = (target: Target, outline: readonly Point[] | undefined): boolean =>
  outline !== undefined && target.shape === 'disc' && isInside(target.x, target.y, outline);

/**
 * Those whose middle a drawn shape covers, or any place of a line's course: what a sweep is meant for. A click that
 * meets none of them is meant for the area it lies in.
 */
export function entriesUnder<T extends Placed>(target: Target, entries: readonly T[]): T[] {
  const met = entries.filter(({ x, y, path }) =>
    (path ?? [[x, y] as const]).some(([px, py]) => covers(target, px, py)),
  );
  return met.length > 0 ? met : entries.filter(({ outline }) => isClickIn(target, outline));
}
