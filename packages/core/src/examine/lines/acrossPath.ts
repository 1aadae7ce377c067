import { alongPath } from './courses.ts';
import type { LinePoint } from './joinPaths.ts';

/** A place on a path. */
export interface PathStation {
  readonly x: number;
  readonly y: number;
  /** Unit vector across the path. */
  readonly nx: number;
  readonly ny: number;
  /** How far it lies from the place before it, in pixels; 0 for the first. */
  readonly length: number;
}

/** Places along a path with what lies across it there, at most so many pixels apart, both ends among them. */
export function acrossPath(path: readonly LinePoint[], apart: number): PathStation[] {
  const places = alongPath(path, apart);
  return places.map(([x, y], k) => {
    const [px, py] = places[Math.max(0, k - 1)];
    const [nx, ny] = places[Math.min(places.length - 1, k + 1)];
    const along = Math.hypot(nx - px, ny - py) || 1;
    return { x, y, nx: -(ny - py) / along, ny: (nx - px) / along, length: Math.hypot(x - px, y - py) };
  });
}
