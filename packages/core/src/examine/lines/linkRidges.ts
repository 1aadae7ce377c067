import { kernels, layOut, take } from '../../filter/kernels.ts';
import type { RidgePoints } from './ridgePoints.ts';

/** The course of a line that may be a fault: numbers of ridge points, one after the other. */
export interface RidgePath {
  readonly points: Int32Array;
  /** Above 0 where the line is darker than its sides. */
  readonly sign: 1 | -1;
}

/** A line begins where it stands out so many times, and goes on where its points do at all. */
const LEAST_SEED = 2.2;

/** The bits of the float above all others. */
const INFINITE_BITS = 0x7f800000;
/** More points than any tile has. */
const MOST_POINTS = 2 ** 22;

/** The least angle between two directions without an arrow. */
export function turnBetween(a: number, b: number): number {
  const turn = Math.abs(a - b) % Math.PI;
  return Math.min(turn, Math.PI - turn);
}

/** Numbers of the points where a line may begin, the strongest first; of equals the one that comes first. */
function seedsOf({ count, strength }: RidgePoints): Int32Array {
  const sizes = new Float32Array(count);
  for (let k = 0; k < count; k++) sizes[k] = Math.abs(strength[k]);
  // As whole numbers floats keep their order, and two numbers in one are sorted without asking which is the larger.
  const bits = new Uint32Array(sizes.buffer);
  const keys = new Float64Array(count);
  let seeds = 0;
  for (let k = 0; k < count; k++)
    if (sizes[k] >= LEAST_SEED) keys[seeds++] = (INFINITE_BITS - bits[k]) * MOST_POINTS + k;
  const sorted = keys.subarray(0, seeds).sort();
  const numbers = new Int32Array(seeds);
  for (let s = 0; s < seeds; s++) numbers[s] = sorted[s] - MOST_POINTS * Math.floor(sorted[s] / MOST_POINTS);
  return numbers;
}

/** Angle, cosine and sine of every point, one after the other. */
function waysOf({ count, angle }: RidgePoints): Float64Array {
  const ways = new Float64Array(3 * count);
  for (let k = 0; k < count; k++) {
    ways[3 * k] = angle[k];
    ways[3 * k + 1] = Math.cos(angle[k]);
    ways[3 * k + 2] = Math.sin(angle[k]);
  }
  return ways;
}

/** Links points of crests that follow one another, from the strongest down; each point belongs to one path. */
export function linkRidges(points: RidgePoints, width: number): RidgePath[] {
  const { count, at, x, y, strength, map } = points;
  const seeds = seedsOf(points);
  const [seedsAt, ats, xs, ys, ways, strengths, maps, linked, lengths] = layOut([
    ...[seeds, at, x, y, waysOf(points), strength, map],
    // What is followed in both directions is put together behind what is there.
    ...[4 * (2 * count + 1), 4 * count],
  ]);
  const paths = kernels().linkCrests(
    ...[seedsAt, seeds.length, ats, xs, ys, ways, strengths, maps],
    ...[width, map.length / width, linked, lengths],
  );
  const all = take(Int32Array, linked, count);
  let end = 0;
  return Array.from(take(Int32Array, lengths, paths), (length): RidgePath => {
    const path = all.subarray(end, end + length);
    end += length;
    return { points: path, sign: strength[path[0]] > 0 ? 1 : -1 };
  });
}
