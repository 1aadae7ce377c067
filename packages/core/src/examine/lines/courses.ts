import { createPlaceGrid } from '../placeGrid.ts';
import type { LinePoint } from './joinPaths.ts';

/** The courses of lines, to ask whether a place lies on one. */
export interface Courses {
  add(path: readonly LinePoint[], halfWidth: number): void;
  has(x: number, y: number): boolean;
}

/** A place farther than this from a course does not lie on it, however wide the line is; in pixels. */
const FARTHEST = 8;

/** Places along a path, at most so many pixels apart, both ends among them. */
export function alongPath(path: readonly LinePoint[], apart: number): LinePoint[] {
  const places: LinePoint[] = path.slice(0, 1);
  for (let i = 1; i < path.length; i++) {
    const [[ax, ay], [bx, by]] = [path[i - 1], path[i]];
    const count = Math.max(1, Math.ceil(Math.hypot(bx - ax, by - ay) / apart));
    for (let k = 1; k <= count; k++)
      places.push([ax + ((bx - ax) * k) / count, ay + ((by - ay) * k) / count]);
  }
  return places;
}

/**
 * @param near how near a place must be to a course to lie on it, in pixels; half the line's width is added
 * @param apart how far apart the places lie that stand for a course, in pixels
 */
export function createCourses(near: number, apart: number): Courses {
  const grid = createPlaceGrid<{ readonly x: number; readonly y: number; readonly reach: number }>(FARTHEST);
  return {
    add(path, halfWidth) {
      const reach = Math.min(FARTHEST, near + halfWidth);
      for (const [x, y] of alongPath(path, apart)) grid.add(x, y, { x, y, reach });
    },
    has: (x, y) => grid.some(x, y, (place) => (place.x - x) ** 2 + (place.y - y) ** 2 < place.reach ** 2),
  };
}
