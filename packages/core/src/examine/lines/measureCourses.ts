import { columnOf } from '../../measure/columnOf.ts';
import { kernels, layOut, take } from '../../kernels/kernels.ts';
import type { HeldColours } from '../ground/heldGround.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { JoinedPath } from './joinPaths.ts';
import type { HeldLinePoints } from './heldRidges.ts';

/** What was seen of one line along its course and across, in units of the plane. */
export interface Course {
  /** In pixels of the plane. */
  readonly length: number;
  readonly strength: { readonly mean: number; readonly weakest: number };
  readonly depth: { readonly mean: number; readonly spread: number; readonly shallower: number };
  /** How far its sides lie apart. */
  readonly step: number;
  /** All turns on its way, radians. */
  readonly turning: number;
  /** Full width at half the depth, in pixels of the plane. */
  readonly width: { readonly mean: number; readonly spread: number };
  readonly sides: { readonly mean: number; readonly spread: number; readonly step: number };
  readonly core: { readonly mean: number; readonly spread: number };
  /** Mean of the core and of the sides in each channel, in codes of the picture. */
  readonly colours: readonly { readonly core: number; readonly side: number }[];
}

/** Numbers that are told of each line, and columns that are filled while one is measured; see packages/core/wasm/courses.ts. */
const [TOLD, COLUMNS] = [26, 12];
const [FEWEST_STATIONS, EVERY] = [6, 1.5];
/** Two points that follow one another lie at most so far apart, in pixels, but for gaps. */
const FARTHEST_STEP = 4.5;

function courseOf(told: Float64Array, at: number, channels: number): Course | null {
  const stations = told[at];
  if (stations < FEWEST_STATIONS) return null;
  const colours: { core: number; side: number }[] = [];
  for (let c = 0; c < channels; c++)
    colours.push({
      core: told[at + 16 + 2 * c] / stations,
      side: told[at + 17 + 2 * c] / (2 * stations),
    });
  return {
    length: told[at + 1],
    strength: { mean: told[at + 2], weakest: told[at + 3] },
    depth: { mean: told[at + 4], spread: told[at + 5], shallower: told[at + 6] },
    step: Math.abs(told[at + 7]),
    turning: told[at + 8],
    width: { mean: told[at + 9], spread: told[at + 10] },
    sides: { spread: told[at + 11], step: told[at + 12], mean: told[at + 13] },
    core: { mean: told[at + 14], spread: told[at + 15] },
    colours,
  };
}

/**
 * Looks at all lines of a level along their courses.
 *
 * @param scale pixels of the picture to one of the level
 * @returns null for a line that runs too near the border to be looked at from both sides
 */
export function measureCourses(
  paths: readonly JoinedPath[],
  { xs, ys, under }: HeldLinePoints,
  { width, height, at: from }: HeldLuma,
  { channels, ...picture }: HeldColours,
  scale: number,
): (Course | null)[] {
  const lengths = columnOf(Int32Array, paths, ({ points }) => points.length);
  const all = new Int32Array(lengths.reduce((sum, length) => sum + length, 0));
  let [end, rows] = [0, 0];
  for (const { points, gaps } of paths) {
    all.set(points, end);
    end += points.length;
    rows = Math.max(rows, points.length, Math.ceil((FARTHEST_STEP * points.length + gaps) / EVERY) + 2);
  }
  const [points, counts, signs, planes, room, told] = layOut([
    ...[all, lengths, columnOf(Int32Array, paths, ({ sign }) => sign), Int32Array.from(channels)],
    ...[8 * COLUMNS * rows, 8 * TOLD * paths.length],
  ]);
  kernels().measureCourses(
    ...[from, width, height, xs, ys, under, points, counts, signs, paths.length],
    ...[planes, channels.length, picture.depth === 16 ? 1 : 0, picture.width, picture.height, scale],
    ...[room, rows, told],
  );
  const seen = take(Float64Array, told, TOLD * paths.length);
  return paths.map((_, line) => courseOf(seen, TOLD * line, channels.length));
}
