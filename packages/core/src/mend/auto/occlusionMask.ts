import { alongPath } from '../../examine/lines/courses.ts';
import type { Rect } from '../../raster/rect.ts';
import { rectsMeet } from '../../raster/rect.ts';
import type { Place } from '../../source/occupied.ts';
import { occupiedPixels, placeRect } from '../../source/occupied.ts';
import { maskOf } from '../../target/maskTargets.ts';
import type { MaskTarget, Point, Target } from '../../target/target.ts';
import { targetMiddle } from '../../target/targetMiddle.ts';
import { GAP_BAND } from '../bridge/closeGap.ts';
import type { MendBase } from '../mendBase.ts';

/** How far apart a line is looked at to tell what lies on it, in pixels. */
const APART = 2;
/** A fault that covers more of a line than this does not cross it: it is the same one, drawn or found once more. */
const SAME = 0.5;

/** What lies farther from the course than this has no say in how it is closed: a square, and what it is predicted from. */
const NEAR = 2 * GAP_BAND;

/** Points along a target; of one that is no line its middle alone. */
const courseOf = (target: Target): readonly Point[] =>
  target.shape === 'stroke' ? alongPath(target.points, APART) : [targetMiddle(target)];

function isSame(places: readonly Place[], course: readonly Point[]): boolean {
  const covered = course.filter(([px, py]) => places.some(({ x, y, r }) => Math.hypot(x - px, y - py) < r));
  return covered.length > SAME * course.length;
}

/**
 * The pixels of a rectangle that are hidden by other faults than the one that is mended, beside its course and where they
 * cross it.
 *
 * @param taken where faults lie
 * @returns none where there are none
 */
export function occlusionMask(
  { id, fault, target }: MendBase,
  taken: readonly Place[],
  rect: Rect,
  pictureWidth: number,
): MaskTarget | null {
  const byFault = new Map<string, Place[]>();
  for (const place of taken) {
    const { of } = place;
    if (of === undefined || of === fault || of === id || !rectsMeet(placeRect(place), rect)) continue;
    const places = byFault.get(of) ?? [];
    places.push(place);
    byFault.set(of, places);
  }
  if (byFault.size === 0) return null;
  const course = courseOf(target);
  const isNear = ({ x, y, r }: Place): boolean =>
    course.some(([px, py]) => Math.hypot(x - px, y - py) < r + NEAR);
  const others = [...byFault.values()]
    .filter((places) => !isSame(places, course))
    .flat()
    .filter(isNear);
  const marks = occupiedPixels(rect, { avoid: others }, pictureWidth);
  return marks.includes(1) ? maskOf(marks, rect) : null;
}
