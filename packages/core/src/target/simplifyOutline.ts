import type { Point } from './target.ts';

/** Distance of a point from the straight piece between two others, squared. */
function away2([x, y]: Point, [ax, ay]: Point, [bx, by]: Point): number {
  const [dx, dy] = [bx - ax, by - ay];
  const length2 = dx * dx + dy * dy;
  const t = length2 > 0 ? Math.min(1, Math.max(0, ((x - ax) * dx + (y - ay) * dy) / length2)) : 0;
  return (x - ax - t * dx) ** 2 + (y - ay - t * dy) ** 2;
}

/** Marks the points between two kept ones that are needed. */
function keepBetween(
  points: readonly Point[],
  kept: Uint8Array,
  from: number,
  to: number,
  most2: number,
): void {
  const open: [from: number, to: number][] = [[from, to]];
  for (let run = open.pop(); run; run = open.pop()) {
    const [first, last] = run;
    let [farthest, most] = [-1, most2];
    for (let i = first + 1; i < last; i++) {
      const away = away2(points[i], points[first], points[last % points.length]);
      if (away > most) [farthest, most] = [i, away];
    }
    if (farthest < 0) continue;
    kept[farthest] = 1;
    open.push([first, farthest], [farthest, last]);
  }
}

/**
 * A closed border with as few corners as it needs to stray from the given one by at most a tolerance, in pixels
 * (Ramer 1972; Douglas and Peucker 1973).
 */
export function simplifyOutline(points: readonly Point[], tolerance: number): Point[] {
  if (points.length <= 3) return [...points];
  const [x, y] = points[0];
  // The border is cut where it begins and at the place farthest from there.
  let [opposite, most] = [1, 0];
  points.forEach(([px, py], i) => {
    const away = (px - x) ** 2 + (py - y) ** 2;
    if (away > most) [opposite, most] = [i, away];
  });
  const kept = new Uint8Array(points.length);
  kept[0] = 1;
  kept[opposite] = 1;
  keepBetween(points, kept, 0, opposite, tolerance ** 2);
  keepBetween(points, kept, opposite, points.length, tolerance ** 2);
  const simple = points.filter((_, i) => kept[i]);
  return simple.length >= 3 ? simple : [...points];
}
