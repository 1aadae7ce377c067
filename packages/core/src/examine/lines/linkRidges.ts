import { floatsAt, kernels, layOut, take } from '../../kernels/kernels.ts';
import { DIGITS, RidgePoint } from '../../kernels/layout.ts';
import type { HeldRidges } from './heldRidges.ts';
import { markBytes } from './heldRidges.ts';

/** The course of a line that may be a fault: numbers of ridge points, one after the other. */
export interface RidgePath {
  readonly points: Int32Array;
  /** Above 0 where the line is darker than its sides. */
  readonly sign: 1 | -1;
}

/** A line begins where it stands out so many times, and goes on where its points do at all. */
const LEAST_SEED = 2.2;

/** The least angle between two directions without an arrow. */
export function turnBetween(a: number, b: number): number {
  const turn = Math.abs(a - b) % Math.PI;
  return Math.min(turn, Math.PI - turn);
}

/** Links points of crests that follow one another, from the strongest down; each point belongs to one path. */
export function linkRidges(ridges: HeldRidges): RidgePath[] {
  const { count, at, records, marks, before, width, height } = ridges;
  const { seedCrests, linkRidgePixels } = kernels();
  const [seeds, keys, others, digits, free, linked, lengths] = layOut([
    ...[4 * count, 8 * count, 8 * count, 4 * DIGITS, markBytes(width * height)],
    // What is followed in both directions is put together behind what is there.
    ...[4 * (2 * count + 1), 4 * count],
  ]);
  const seedCount = seedCrests(records, count, LEAST_SEED, keys, others, digits, seeds);
  const paths = linkRidgePixels(
    ...[seeds, seedCount, at, records, marks, before, free],
    ...[width, height, linked, lengths],
  );
  const all = take(Int32Array, linked, count);
  const counts = take(Int32Array, lengths, paths);
  const values = floatsAt(records, (count * RidgePoint.BYTES) / Float32Array.BYTES_PER_ELEMENT);
  const isDark = (k: number): boolean =>
    values[(k * RidgePoint.BYTES + RidgePoint.STRENGTH) / Float32Array.BYTES_PER_ELEMENT] > 0;
  const found: RidgePath[] = [];
  let end = 0;
  for (const length of counts) {
    const path = all.subarray(end, end + length);
    end += length;
    found.push({ points: path, sign: isDark(path[0]) ? 1 : -1 });
  }
  return found;
}
