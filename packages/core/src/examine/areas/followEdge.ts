import type { FloatPlane } from '../../raster/float.ts';
import type { Point } from '../../target/target.ts';

/** An edge is followed for so many pixels at most. */
export const MOST_FOLLOWED = 72;
/** It is looked for anew after so many pixels, so far to both sides, in such steps. */
const STEP = 2;
const ASIDE = 2;
const FINE = 0.5;
/** Tones are compared so far to both sides of the edge, in pixels. */
const ACROSS = 1.5;
/** What it costs to go aside by one pixel, as a share of the edge's own step. */
const ASIDE_COST = 0.04;
/** How much of its way an edge keeps with each step. */
const INERTIA = 0.75;
/** An edge with less than this share of the step it began with has ended. */
const LEAST_SHARE = 0.4;

/** The tone at a place, linear between pixels; not a number outside. */
function toneAt({ width, height, data }: FloatPlane, x: number, y: number): number {
  const [left, top] = [Math.floor(x - 0.5), Math.floor(y - 0.5)];
  if (left < 0 || top < 0 || left + 1 >= width || top + 1 >= height) return NaN;
  const [partX, partY] = [x - 0.5 - left, y - 0.5 - top];
  const at = top * width + left;
  const upper = data[at] + partX * (data[at + 1] - data[at]);
  const lower = data[at + width] + partX * (data[at + width + 1] - data[at + width]);
  return upper + partY * (lower - upper);
}

/**
 * Follows an edge from a place on it, step by step along the strongest change of tone across its way.
 *
 * @param angle the way it goes, radians
 * @returns its course from the place on, in pixels of the plane; at least the place itself
 */
export function followEdge(luma: FloatPlane, [x, y]: Point, angle: number): Point[] {
  let [dx, dy] = [Math.cos(angle), Math.sin(angle)];
  const stepAcross = (px: number, py: number): number =>
    toneAt(luma, px - ACROSS * dy, py + ACROSS * dx) - toneAt(luma, px + ACROSS * dy, py - ACROSS * dx);
  const course: Point[] = [];
  let first = 0;
  let [ownX, ownY] = [x, y];
  for (let length = 0; length <= MOST_FOLLOWED; length += STEP) {
    const [aheadX, aheadY] = length === 0 ? [x, y] : [ownX + STEP * dx, ownY + STEP * dy];
    let best = { aside: 0, worth: -Infinity, step: 0 };
    for (let aside = -ASIDE; aside <= ASIDE; aside += FINE) {
      const step = stepAcross(aheadX - aside * dy, aheadY + aside * dx);
      // The sides of an edge do not change places.
      const worth =
        (first === 0 ? Math.abs(step) : Math.sign(first) * step) * (1 - ASIDE_COST * aside * aside);
      if (worth > best.worth) best = { aside, worth, step };
    }
    if (length === 0) first = best.step;
    else if (best.worth < LEAST_SHARE * Math.abs(first)) break;
    const [nextX, nextY] = [aheadX - best.aside * dy, aheadY + best.aside * dx];
    course.push([nextX, nextY]);
    if (length > 0) {
      const [wayX, wayY] = [nextX - ownX, nextY - ownY];
      const [sumX, sumY] = [
        INERTIA * STEP * dx + (1 - INERTIA) * wayX,
        INERTIA * STEP * dy + (1 - INERTIA) * wayY,
      ];
      const size = Math.hypot(sumX, sumY);
      if (size > 0) [dx, dy] = [sumX / size, sumY / size];
    }
    [ownX, ownY] = [nextX, nextY];
  }
  return course;
}
