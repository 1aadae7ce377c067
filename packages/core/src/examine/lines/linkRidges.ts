import type { RidgePoints } from './ridgePoints.ts';

/** The course of a line that may be a fault: numbers of ridge points, one after the other. */
export interface RidgePath {
  readonly points: readonly number[];
  /** Above 0 where the line is darker than its sides. */
  readonly sign: 1 | -1;
}

/** A line begins where it stands out so many times, and goes on where its points do at all. */
const LEAST_SEED = 2.2;
/** Two points that follow one another turn by at most this, radians. */
const MOST_TURN = Math.PI / 4;
/** Shorter paths are no lines, in pixels. */
const SHORTEST = 8;

/** The least angle between two directions without an arrow. */
export function turnBetween(a: number, b: number): number {
  const turn = Math.abs(a - b) % Math.PI;
  return Math.min(turn, Math.PI - turn);
}

/** Links points of crests that follow one another, from the strongest down; each point belongs to one path. */
export function linkRidges(points: RidgePoints, width: number): RidgePath[] {
  const { count, at, x, y, angle, strength, map } = points;
  const taken = new Uint8Array(count);
  const seeds = Array.from({ length: count }, (_, k) => k)
    .filter((k) => Math.abs(strength[k]) >= LEAST_SEED)
    .sort((a, b) => Math.abs(strength[b]) - Math.abs(strength[a]) || at[a] - at[b]);

  /** The point that goes on best from one, heading some way; none where the line ends. */
  function next(from: number, heading: number): number | null {
    const isDark = strength[from] > 0;
    const cos = Math.cos(heading);
    const sin = Math.sin(heading);
    let best = -1;
    let least = Infinity;
    for (let dy = -2; dy <= 2; dy++) {
      const row = at[from] + dy * width;
      for (let place = row - 2; place <= row + 2; place++) {
        const k = map[place] - 1;
        // Beyond the plane there is no number at all.
        if (!(k >= 0) || k === from || taken[k] || strength[k] > 0 !== isDark) continue;
        const ox = x[k] - x[from];
        const oy = y[k] - y[from];
        const along = ox * cos + oy * sin;
        const aside = Math.abs(oy * cos - ox * sin);
        if (along <= 0.2 || aside > along) continue;
        const turn = turnBetween(angle[k], heading);
        if (turn > MOST_TURN) continue;
        const cost = Math.sqrt(ox * ox + oy * oy) + 2 * turn + aside;
        if (cost < least) {
          best = k;
          least = cost;
        }
      }
    }
    return best < 0 ? null : best;
  }

  function follow(seed: number, heading: number): number[] {
    const path: number[] = [];
    let [from, way] = [seed, heading];
    for (;;) {
      const k = next(from, way);
      if (k === null) return path;
      taken[k] = 1;
      path.push(k);
      // The line's own direction, with the arrow that goes on.
      const on = Math.cos(angle[k] - way) >= 0 ? angle[k] : angle[k] + Math.PI;
      [from, way] = [k, on];
    }
  }

  const paths: RidgePath[] = [];
  for (const seed of seeds) {
    if (taken[seed]) continue;
    taken[seed] = 1;
    const ahead = follow(seed, angle[seed]);
    const back = follow(seed, angle[seed] + Math.PI);
    const path = [...back.reverse(), seed, ...ahead];
    const [first, last] = [path[0], path[path.length - 1]];
    if (path.length < SHORTEST || Math.hypot(x[last] - x[first], y[last] - y[first]) < SHORTEST / 2) continue;
    paths.push({ points: path, sign: strength[seed] > 0 ? 1 : -1 });
  }
  return paths;
}
