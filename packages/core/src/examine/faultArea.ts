import { polygonArea } from './areas/areaTraits.ts';
import type { Fault } from '../fault/fault.ts';

/** The area a fault takes up, in pixels. */
export function faultArea({ r, path, outline }: Pick<Fault, 'r' | 'path' | 'outline'>): number {
  if (outline) return polygonArea(outline);
  if (!path) return Math.PI * r * r;
  return path.reduce(
    (sum, [x, y], i) => (i === 0 ? 0 : sum + 2 * r * Math.hypot(x - path[i - 1][0], y - path[i - 1][1])),
    0,
  );
}
