import type { Point } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import type { Placement } from '../fit/placement.ts';
import { AS_IT_LIES, after, place } from '../fit/placement.ts';
import type { TornCourse } from '../fit/tornCourse.ts';

/** Where laid pieces go so that the picture's borders are upright and level and begin at 0, 0, and how large it is. */
export interface Squared {
  readonly move: Placement;
  readonly width: number;
  readonly height: number;
}

/** A border faces a side when its normal is so near to it, as a cosine. */
const FACING = 0.995;
/** Borders within this share of the picture's length from the outermost are the print's own. */
const OUTER = 0.03;
/** This share of a side's borders may lie farther inside than where it is cut: bites, and bends of the paper. */
const INNERMOST = 0.05;
/** So much is cut off each border, in pixels: where the print's own edge is not quite straight no ground may show. */
const CUT = 2.5;

interface Straight {
  readonly at: Point;
  readonly normal: Point;
}

/** The angle to the next multiple of a right angle that straight borders have in common, by the mean of four times it. */
function slantOf(straight: readonly Straight[]): number {
  let [cos, sin] = [0, 0];
  for (const {
    normal: [x, y],
  } of straight) {
    const angle = 4 * Math.atan2(y, x);
    cos += Math.cos(angle);
    sin += Math.sin(angle);
  }
  return Math.atan2(sin, cos) / 4;
}

/** Where the print ends to one side: where nearly all of the straight borders that face it lie beyond, or its farthest place. */
function endOf(straight: readonly Straight[], all: readonly Point[], [dx, dy]: Point, reach: number): number {
  const along = ([x, y]: Point): number => x * dx + y * dy;
  const facing = straight.filter(({ normal }) => along(normal) > FACING).map(({ at }) => along(at));
  const farthest = all.reduce((most, at) => Math.max(most, along(at)), -Infinity);
  const outer = facing.filter((value) => value > farthest - OUTER * reach).sort((a, b) => a - b);
  return outer.length > 0 ? outer[Math.floor(INNERMOST * outer.length)] : farthest;
}

/**
 * Squares laid pieces by the straight borders of the print, also where they are partly lost.
 *
 * @param courses with where each lies
 */
export function squareUp(courses: readonly (TornCourse & { readonly placement: Placement })[]): Squared {
  const straightAfter = (move: Placement): Straight[] =>
    courses.flatMap(({ points, normals, isTorn, placement }) => {
      const onto = after(placement, move);
      return points.flatMap((point, i) =>
        isTorn[i] ? [] : [{ at: place(onto, point), normal: place({ ...onto, dx: 0, dy: 0 }, normals[i]) }],
      );
    });
  const turn: Placement = { ...AS_IT_LIES, angle: -slantOf(straightAfter(AS_IT_LIES)) };
  const straight = straightAfter(turn);
  const all = courses.flatMap(({ points, placement }) =>
    points.map((point) => place(after(placement, turn), point)),
  );
  const { width: wide, height: high } = targetBounds({ shape: 'outline', points: all }, 0);
  const end = (side: Point): number => endOf(straight, all, side, Math.max(wide, high)) - CUT;
  const [left, top] = [-end([-1, 0]), -end([0, -1])];
  const [right, bottom] = [end([1, 0]), end([0, 1])];
  return {
    move: { ...turn, dx: -left, dy: -top },
    width: Math.max(1, Math.round(right - left)),
    height: Math.max(1, Math.round(bottom - top)),
  };
}
