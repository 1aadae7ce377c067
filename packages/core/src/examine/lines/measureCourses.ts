import { columnOf } from '../../measure/columnOf.ts';
import { kernels, layOut, take } from '../../kernels/kernels.ts';
import {
  COURSE_COLUMNS,
  COURSE_EVERY,
  COURSE_FEWEST,
  COURSE_NUMBERS,
  Course as Field,
} from '../../kernels/layout.ts';
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

/** Two points that follow one another lie at most so far apart, in pixels, but for gaps. */
const FARTHEST_STEP = 4.5;

function courseOf(numbers: Float64Array, at: number, channels: number): Course | null {
  const read = (field: Field): number => numbers[at + field];
  const stations = read(Field.STATIONS);
  if (stations < COURSE_FEWEST) return null;
  const colours = Array.from({ length: channels }, (_, c) => {
    const sums = at + Field.COLOURS + 2 * c;
    return { core: numbers[sums] / stations, side: numbers[sums + 1] / (2 * stations) };
  });
  return {
    length: read(Field.LENGTH),
    strength: { mean: read(Field.STRENGTH), weakest: read(Field.WEAKEST) },
    depth: {
      mean: read(Field.DEPTH),
      spread: read(Field.DEPTH_SPREAD),
      shallower: read(Field.SHALLOWER),
    },
    step: Math.abs(read(Field.STEP)),
    turning: read(Field.TURNING),
    width: { mean: read(Field.WIDTH), spread: read(Field.WIDTH_SPREAD) },
    sides: {
      spread: read(Field.SIDES_SPREAD),
      step: read(Field.SIDES_STEP),
      mean: read(Field.SIDES),
    },
    core: { mean: read(Field.CORE), spread: read(Field.CORE_SPREAD) },
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
    rows = Math.max(
      rows,
      points.length,
      Math.ceil((FARTHEST_STEP * points.length + gaps) / COURSE_EVERY) + 2,
    );
  }
  const [points, counts, signs, planes, room, measured] = layOut([
    ...[all, lengths, columnOf(Int32Array, paths, ({ sign }) => sign), Int32Array.from(channels)],
    ...[8 * COURSE_COLUMNS * rows, 8 * COURSE_NUMBERS * paths.length],
  ]);
  const loops = kernels();
  loops.setCourseLevel(from, width, height);
  loops.setCoursePoints(xs, ys, under);
  const isWide = picture.depth === 16 ? 1 : 0;
  loops.setCourseColours(planes, channels.length, isWide, picture.width, picture.height, scale);
  loops.setCourseRoom(room, rows);
  loops.measureCourses(points, counts, signs, paths.length, measured);
  const seen = take(Float64Array, measured, COURSE_NUMBERS * paths.length);
  return paths.map((_, line) => courseOf(seen, COURSE_NUMBERS * line, channels.length));
}
