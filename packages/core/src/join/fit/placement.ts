import type { Point } from '../../target/target.ts';

/** Where a piece lies: a place (x, y) of its scan turned by `angle` about the origin, then moved by `dx`, `dy`. */
export interface Placement {
  /** In radians, from the x axis to the y axis. */
  readonly angle: number;
  /** In pixels, as `dy`. */
  readonly dx: number;
  readonly dy: number;
}

export const AS_IT_LIES: Placement = { angle: 0, dx: 0, dy: 0 };

/** A place after a piece was laid. */
export function place({ angle, dx, dy }: Placement, [x, y]: Point): Point {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [cos * x - sin * y + dx, sin * x + cos * y + dy];
}

/** Where a laid place lies on the scan. */
export function unplace({ angle, dx, dy }: Placement, [x, y]: Point): Point {
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return [cos * (x - dx) + sin * (y - dy), cos * (y - dy) - sin * (x - dx)];
}

/** First one placement, then another. */
export function after(first: Placement, then: Placement): Placement {
  const [dx, dy] = place(then, [first.dx, first.dy]);
  return { angle: first.angle + then.angle, dx, dy };
}

/** What takes a placement back. */
export function inverse(placement: Placement): Placement {
  const [dx, dy] = unplace(placement, [0, 0]);
  return { angle: -placement.angle, dx, dy };
}

/** A pair of places that are to lie on one another, and how much it counts. */
export interface PlacePair {
  readonly from: Point;
  readonly onto: Point;
  readonly weight: number;
}

/**
 * The placement under which places lie nearest to others, by weighted squared distance (Umeyama 1991, in the plane and without
 * a scale).
 */
export function fitPlacement(pairs: readonly PlacePair[]): Placement {
  let [total, fx, fy, ox, oy] = [0, 0, 0, 0, 0];
  for (const { from, onto, weight } of pairs) {
    total += weight;
    fx += weight * from[0];
    fy += weight * from[1];
    ox += weight * onto[0];
    oy += weight * onto[1];
  }
  if (total === 0) return AS_IT_LIES;
  [fx, fy, ox, oy] = [fx / total, fy / total, ox / total, oy / total];
  let [cos, sin] = [0, 0];
  for (const { from, onto, weight } of pairs) {
    const [ax, ay, bx, by] = [from[0] - fx, from[1] - fy, onto[0] - ox, onto[1] - oy];
    cos += weight * (ax * bx + ay * by);
    sin += weight * (ax * by - ay * bx);
  }
  const angle = Math.atan2(sin, cos);
  const [x, y] = place({ angle, dx: 0, dy: 0 }, [fx, fy]);
  return { angle, dx: ox - x, dy: oy - y };
}
