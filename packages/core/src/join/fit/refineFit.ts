import type { IndexedCourse } from './indexedCourse.ts';
import type { PlacePair, Placement } from './placement.ts';
import { after, fitPlacement, place } from './placement.ts';
import type { TornCourse } from './tornCourse.ts';

/** How a piece lies beside another. */
export interface Fit {
  readonly placement: Placement;
  /** How much of the border lies on the other's, in pixels. */
  readonly length: number;
  /** How far the two borders lie apart there, root of the mean square, in pixels. */
  readonly misfit: number;
  /** How much of the border lies inside of the other piece, in pixels. */
  readonly overlap: number;
}

/** How far borders may lie apart at the first round and at the last, in steps. */
export const WIDE = 5;
export const NARROW = 0.8;
const ROUNDS = 16;
/** Each round borders may lie less far apart, by this share. */
const CLOSER = 0.8;
/** Borders that lie on one another face each other: the cosine between their normals is below this. */
const FACING = -0.4;
/** What lies so far inside of the other piece is an overlap, in steps. */
const DEEP = 1.5;
/** Fewer pairs say nothing. */
const LEAST_PAIRS = 6;
/** Rounds in which what lies apart counts less and less, and how far apart still counts at the last, in pixels. */
const EXACT_ROUNDS = 14;
const EXACT = 0.7;
/** Where less than this share of the border is known, all of it is taken. */
const LEAST_KNOWN = 0.15;

interface FacingPair {
  readonly from: readonly [number, number];
  /** How far it lies outside of the other border, in pixels, and the direction outwards. */
  readonly across: number;
  readonly normal: readonly [number, number];
  readonly isKnown: boolean;
}

/** Places of the second border that lie across a torn border of the first and face it, and how much lies inside. */
function facingPairs(
  first: IndexedCourse,
  second: TornCourse,
  placement: Placement,
  step: number,
  reach: number,
): { pairs: FacingPair[]; overlap: number } {
  const pairs: FacingPair[] = [];
  let overlap = 0;
  const [cos, sin] = [Math.cos(placement.angle), Math.sin(placement.angle)];
  for (let i = 0; i < second.points.length; i++) {
    const from = place(placement, second.points[i]);
    const near = first.nearest(from);
    if (near < 0) continue;
    const [nx, ny] = first.normals[near];
    const [mx, my] = second.normals[i];
    const [fx, fy] = first.points[near];
    const across = (from[0] - fx) * nx + (from[1] - fy) * ny;
    if (across < -DEEP * step) overlap += step;
    const facing = nx * (cos * mx - sin * my) + ny * (sin * mx + cos * my);
    if (facing > FACING || Math.abs(across) > reach || !second.isTorn[i] || !first.isTorn[near]) continue;
    pairs.push({ from, across, normal: [nx, ny], isKnown: first.isKnown[near] && second.isKnown[i] });
  }
  return { pairs, overlap };
}

const ontoBorder = ({ from, across, normal }: FacingPair, weight: number): PlacePair => ({
  from,
  onto: [from[0] - across * normal[0], from[1] - across * normal[1]],
  weight,
});

/** How a piece lies with a placement that is not moved any more. */
export function fitOf(first: IndexedCourse, second: TornCourse, placement: Placement, step: number): Fit {
  const { pairs, overlap } = facingPairs(first, second, placement, step, NARROW * step);
  const sum = pairs.reduce((total, { across }) => total + across ** 2, 0);
  return {
    placement,
    overlap,
    length: pairs.length * step,
    misfit: Math.sqrt(sum / Math.max(1, pairs.length)),
  };
}

/**
 * Lays the torn border of a piece on that of another, nearer and nearer (iterated closest points, Besl and McKay 1992, with
 * pairs that lie too far apart or do not face each other left out; residuals across the border only, Chen and Medioni 1992).
 *
 * @param first knows the nearest point within {@link WIDE} steps
 * @param start about where it lies
 * @param step of both courses, in pixels
 * @returns null where no part of the one lies on the other
 */
export function refineFit(
  first: IndexedCourse,
  second: TornCourse,
  start: Placement,
  step: number,
): Fit | null {
  let placement = start;
  for (let round = 0; round < ROUNDS; round++) {
    const reach = step * Math.max(NARROW, WIDE * CLOSER ** round);
    const { pairs } = facingPairs(first, second, placement, step, reach);
    if (pairs.length < LEAST_PAIRS) return null;
    placement = after(placement, fitPlacement(pairs.map((pair) => ontoBorder(pair, 1))));
  }
  return fitOf(first, second, placement, step);
}

/**
 * Moves a fit to where most of the border lies exactly: places where white fibre was taken for picture, or the picture for
 * fibre, lie apart all to one side, and count less the farther they do (Tukey's biweight; Beaton and Tukey 1974).
 */
export function settleFit(
  first: IndexedCourse,
  second: TornCourse,
  start: Placement,
  step: number,
): Placement {
  let placement = start;
  for (let round = 0; round < EXACT_ROUNDS; round++) {
    const reach = Math.max(EXACT, 2 * NARROW * step * CLOSER ** round);
    const { pairs } = facingPairs(first, second, placement, step, reach);
    if (pairs.length < LEAST_PAIRS) return placement;
    const known = pairs.filter(({ isKnown }) => isKnown);
    const exact = known.length < LEAST_KNOWN * pairs.length ? pairs : known;
    const weighed = exact.map((pair) => ontoBorder(pair, (1 - (pair.across / reach) ** 2) ** 2));
    placement = after(placement, fitPlacement(weighed));
  }
  return placement;
}
