import type { Point } from '../../target/target.ts';
import type { Placement } from './placement.ts';
import { fitPlacement, place } from './placement.ts';
import type { TornCourse } from './tornCourse.ts';

/** Steps on each side of a place that its shape is taken from: long shapes say more, short ones are seldom spoiled by a lost crumb. */
const HALVES = [40, 24, 14];
/** Every so many steps are held against one another. */
const STRIDE = 2;
/** So many placements are tried, each unlike the others. */
const TRIED = 32;
/** Placements that turn a piece alike and move its middle alike are one: by so little, in radians and in steps. */
const ALIKE = { angle: 0.15, steps: 12 };
/** A match this bad, as a share of how much the course bends, counts half of a perfect one. */
const HALF_COST = 0.05;

/** The course around a place, seen from it: x along, y across, in pixels; walked backwards where `way` is -1. */
function shapeAt(points: readonly Point[], at: number, way: 1 | -1, half: number): Float64Array {
  const count = points.length;
  const shape = new Float64Array(2 * (2 * half + 1));
  const point = (k: number): Point => points[(at + way * k + 2 * half * count) % count];
  const [ox, oy] = point(0);
  const [ax, ay] = point(-half);
  const [bx, by] = point(half);
  const length = Math.hypot(bx - ax, by - ay) || 1;
  const [cos, sin] = [(bx - ax) / length, (by - ay) / length];
  for (let k = -half; k <= half; k++) {
    const [x, y] = point(k);
    shape[2 * (k + half)] = cos * (x - ox) + sin * (y - oy);
    shape[2 * (k + half) + 1] = cos * (y - oy) - sin * (x - ox);
  }
  return shape;
}

/** True if most of the course around a place is torn. */
function isTornAround({ isTorn }: TornCourse, at: number, half: number): boolean {
  const count = isTorn.length;
  let torn = 0;
  for (let k = -half; k <= half; k++) if (isTorn[(at + k + half * count) % count]) torn++;
  return torn > 1.6 * half;
}

/** How much a shape bends: a straight one fits everywhere and says nothing. */
function bendOf(shape: Float64Array): number {
  let sum = 0;
  for (let k = 1; k < shape.length; k += 2) sum += shape[k] ** 2;
  return sum;
}

interface Match {
  /** Places on both courses that have the same shape. */
  readonly at: number;
  readonly to: number;
  readonly half: number;
  /** Difference between the shapes over how much they bend, both squared. */
  readonly cost: number;
}

/** For each place of one course the place of the other that is most like it. */
function likestPlaces(first: TornCourse, second: TornCourse, half: number): Match[] {
  const places = (course: TornCourse, way: 1 | -1) =>
    course.points.flatMap((_, at) => {
      if (at % STRIDE !== 0 || !isTornAround(course, at, half)) return [];
      return [{ at, shape: shapeAt(course.points, at, way, half) }];
    });
  const [ones, others] = [places(first, 1), places(second, -1)];
  return ones.flatMap(({ at, shape }): Match[] => {
    const bend = bendOf(shape);
    let [to, least] = [-1, Infinity];
    for (const other of others) {
      let sum = 0;
      for (let k = 0; k < shape.length && sum < least; k++) sum += (shape[k] - other.shape[k]) ** 2;
      if (sum < least) [to, least] = [other.at, sum];
    }
    return to < 0 ? [] : [{ at, to, half, cost: least / bend }];
  });
}

/** How far two angles lie apart, in radians. */
function angleApart(a: number, b: number): number {
  const turn = Math.abs(a - b) % (2 * Math.PI);
  return Math.min(turn, 2 * Math.PI - turn);
}

/**
 * Placements of one piece under which a part of its border may lie on a part of another's: places with the same shape, the one
 * walked forwards and the other backwards (partial curve matching; Wolfson 1990, On curve matching). What many places agree
 * on comes first.
 *
 * @param step of both courses, in pixels
 * @returns placements of the second piece beside the first, likeliest first; they still have to be refined
 */
export function matchCourses(first: TornCourse, second: TornCourse, step: number): Placement[] {
  const [countA, countB] = [first.points.length, second.points.length];
  const middle = meanOf(second.points);
  const groups: { readonly placement: Placement; readonly middle: Point; votes: number }[] = [];
  const matches = HALVES.flatMap((half) => likestPlaces(first, second, half)).sort((a, b) => a.cost - b.cost);
  for (const { at, to, half, cost } of matches) {
    const placement = fitPlacement(
      Array.from({ length: 2 * half + 1 }, (_, k) => ({
        from: second.points[(to - (k - half) + half * countB) % countB],
        onto: first.points[(at + (k - half) + half * countA) % countA],
        weight: 1,
      })),
    );
    const [x, y] = place(placement, middle);
    const vote = HALF_COST / (HALF_COST + cost);
    const known = groups.find(
      (group) =>
        angleApart(group.placement.angle, placement.angle) < ALIKE.angle &&
        Math.hypot(group.middle[0] - x, group.middle[1] - y) < ALIKE.steps * step,
    );
    if (known) known.votes += vote;
    else groups.push({ placement, middle: [x, y], votes: vote });
  }
  return groups
    .sort((a, b) => b.votes - a.votes)
    .slice(0, TRIED)
    .map(({ placement }) => placement);
}

function meanOf(points: readonly Point[]): Point {
  let [x, y] = [0, 0];
  for (const [px, py] of points) {
    x += px / points.length;
    y += py / points.length;
  }
  return [x, y];
}
