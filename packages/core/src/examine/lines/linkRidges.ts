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

/** Links points of crests that follow one another, from the strongest down; each point belongs to one path. */
export function linkRidges(points: RidgePoints, width: number, height: number): RidgePath[] {
  const { count, at, x, y, ways, strength } = points;
  const seeds = seedsOf(points);
  const [seedsAt, ats, xs, ys, waysAt, strengths, map, linked, lengths] = layOut([
    ...[seeds, at, x, y, ways, strength, 4 * width * height],
    // What is followed in both directions is put together behind what is there.
    ...[4 * (2 * count + 1), 4 * count],
  ]);
  const paths = kernels().linkCrests(
    ...[seedsAt, seeds.length, count, ats, xs, ys, waysAt, strengths, map],
    ...[width, height, linked, lengths],
  );
  const all = take(Int32Array, linked, count);
  const counts = take(Int32Array, lengths, paths);
  const found: RidgePath[] = [];
  let end = 0;
  for (const length of counts) {
    const path = all.subarray(end, end + length);
    end += length;
    found.push({ points: path, sign: strength[path[0]] > 0 ? 1 : -1 });
  }
  return found;
}
