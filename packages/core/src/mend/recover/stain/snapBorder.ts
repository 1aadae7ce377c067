import { columnOf } from '../../../measure/columnOf.ts';
import { medianOf } from '../../../measure/medianOf.ts';
import type { Point } from '../../../target/target.ts';
import { densityAt } from './stain.ts';

/** Pixels between places along a border. */
const ALONG = 1.5;
/** Places on either side over which its direction is measured. */
const SMOOTH = 5;
/** Pixels between samples across it. */
const ACROSS = 0.5;
/** So wide a strip on either side of a border is held against the other, in pixels. */
const SIDE = 4;
/** What a bend by one sample across costs where a profile is known, in log light: less than grain. */
const BEND = 0.03;
/** A border strays from its neighbour by at most so many samples across. */
const STRAY = 2;

/** A border as places at even distances, each with the direction out of it. */
interface Course {
  readonly points: readonly Point[];
  readonly outwards: readonly Point[];
}

/** The picture's logarithm of light, read between its pixels. */
export type Read = (x: number, y: number) => number;

function evenly(points: readonly Point[]): Point[] {
  const out: Point[] = [];
  let over = 0;
  points.forEach((a, i) => {
    const b = points[(i + 1) % points.length];
    const length = Math.hypot(b[0] - a[0], b[1] - a[1]);
    let at = over;
    for (; at < length; at += ALONG)
      out.push([a[0] + (at / length) * (b[0] - a[0]), a[1] + (at / length) * (b[1] - a[1])]);
    over = at - length;
  });
  return out;
}

function courseOf(points: readonly Point[], isClockwise: boolean): Course {
  const even = evenly(points);
  const n = even.length;
  const outwards = even.map((_, i): Point => {
    const [before, after] = [even[(i + n - SMOOTH) % n], even[(i + SMOOTH) % n]];
    const [dx, dy] = [after[0] - before[0], after[1] - before[1]];
    const length = Math.hypot(dx, dy) || 1;
    const turn = isClockwise ? 1 : -1;
    return [(turn * dy) / length, (-turn * dx) / length];
  });
  return { points: even, outwards };
}

/** Light across a border, place after place, from inside to outside. */
function strips({ points, outwards }: Course, reach: number, read: Read): Float32Array[] {
  const count = 2 * Math.round(reach / ACROSS) + 1;
  return points.map(([x, y], i) =>
    Float32Array.from({ length: count }, (_, k) => {
      const away = k * ACROSS - reach;
      return read(x + away * outwards[i][0], y + away * outwards[i][1]);
    }),
  );
}

/** The closed path through a table of costs that costs least, one column for each row. (Viterbi 1967.) */
function cheapestLoop(costs: readonly Float32Array[], holds: number): Int32Array {
  const [rows, columns] = [costs.length, costs[0].length];
  const run = (order: readonly number[], through: number | null): Int32Array => {
    let total = columnOf(Float64Array, costs[order[0]], (cost, k) =>
      through === null || k === through ? cost : Infinity,
    );
    const from: Int32Array[] = [];
    for (const row of order.slice(1)) {
      const next = new Float64Array(columns).fill(Infinity);
      const came = new Int32Array(columns);
      for (let k = 0; k < columns; k++)
        for (let j = Math.max(0, k - STRAY); j <= Math.min(columns - 1, k + STRAY); j++) {
          const cost = total[j] + holds * Math.abs(k - j) + costs[row][k];
          if (cost < next[k]) [next[k], came[k]] = [cost, j];
        }
      from.push(came);
      total = next;
    }
    const path = new Int32Array(rows);
    let at = through ?? total.indexOf(Math.min(...total));
    for (let i = order.length - 1; i >= 0; i--) {
      path[order[i]] = at;
      if (i > 0) at = from[i - 1][at];
    }
    return path;
  };
  const numbers = Array.from({ length: rows }, (_, i) => i);
  // Where it passes in the middle, away from its ends, is where the loop is closed.
  const middle = rows >> 1;
  const open = run(numbers, null);
  const order = [...numbers.slice(middle), ...numbers.slice(0, middle), middle];
  return run(order, open[middle]);
}

/** How much brighter it is outside than inside each place across a border; 0 so near an end of the strip that it is not known. */
function stepsOf(strip: Float32Array): Float32Array {
  const side = Math.round(SIDE / ACROSS);
  return strip.map((_, k) => {
    let [outer, inner, n] = [0, 0, 0];
    for (let j = 1; j <= side; j++) {
      const [a, b] = [k + j, k - j];
      if (a >= strip.length || b < 0) break;
      outer += strip[a];
      inner += strip[b];
      n++;
    }
    return n > side / 2 ? (outer - inner) / n : 0;
  });
}

/** The border, moved to where a course was found. */
const moved = ({ points, outwards }: Course, path: Int32Array, reach: number): Point[] =>
  points.map(([x, y], i) => {
    const n = path.length;
    // One sample to and fro is no bend.
    const at = (path[(i + n - 1) % n] + path[i] + path[(i + 1) % n]) / 3;
    const away = at * ACROSS - reach;
    return [x + away * outwards[i][0], y + away * outwards[i][1]];
  });

/**
 * Moves a rough border to the edge that runs along it: to where it is darker inside than outside, everywhere a little,
 * rather than in a few places much.
 *
 * @param reach so far the edge may lie away, in pixels
 * @param how `sign` 1 where it is darker inside, -1 where it is brighter; `holds`: what a bend by one sample costs
 */
export function snapToEdge(
  points: readonly Point[],
  isClockwise: boolean,
  reach: number,
  how: { readonly sign: 1 | -1; readonly holds: number },
  read: Read,
): Point[] {
  const { sign, holds } = how;
  const course = courseOf(points, isClockwise);
  const steps = strips(course, reach, read).map((strip) => stepsOf(strip).map((step) => sign * step));
  // The subject's own edges are stronger than a stain's: none counts more than twice what is usual.
  const usual = Math.max(1e-3, medianOf(steps.map((row) => Math.max(...row))));
  const costs = steps.map((row) => row.map((step) => -Math.min(2, Math.max(-1, step / usual))));
  return moved(course, cheapestLoop(costs, holds), reach);
}

/** Moves a border to where a known profile, once undone, leaves the least variation across it. */
export function snapToProfile(
  points: readonly Point[],
  isClockwise: boolean,
  reach: number,
  { depths, density }: { readonly depths: readonly number[]; readonly density: ArrayLike<number> },
  read: Read,
): Point[] {
  const course = courseOf(points, isClockwise);
  const wide = reach + Math.min(12, depths[depths.length - 1]);
  const shifts = 2 * Math.round(reach / ACROSS) + 1;
  const costs = strips(course, wide, read).map((strip) =>
    Float32Array.from({ length: shifts }, (_, k) => {
      const border = k * ACROSS - reach;
      let cost = 0;
      let before = densityAt(depths, density, border + wide);
      for (let j = 1; j < strip.length; j++) {
        const now = densityAt(depths, density, border + wide - j * ACROSS);
        cost += Math.abs(strip[j] - strip[j - 1] + now - before);
        before = now;
      }
      return cost;
    }),
  );
  return moved(course, cheapestLoop(costs, BEND), reach);
}
