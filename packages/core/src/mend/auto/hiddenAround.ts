import type { Rect } from '../../raster/rect.ts';
import { rectsMeet } from '../../raster/rect.ts';
import type { Place } from '../../source/occupied.ts';
import { occupiedPixels, placeRect } from '../../source/occupied.ts';
import { maskOf } from '../../target/maskTargets.ts';
import type { MaskTarget, Point, Target } from '../../target/target.ts';
import { targetMiddle } from '../../target/targetMiddle.ts';
import type { MendBase } from '../mend.ts';

/** How far apart a line is looked at to tell what lies on it, in pixels. */
const APART = 2;
/** A fault that covers more of a line than this does not cross it: it is the same one, drawn or found once more. */
const SAME = 0.5;

/** Points along a target; of one that is no line its middle alone. */
function pointsOf(target: Target): Point[] {
  if (target.shape !== 'stroke') return [targetMiddle(target)];
  return target.points.flatMap(([x, y], k, points): Point[] => {
    const [fromX, fromY] = points[Math.max(0, k - 1)];
    const steps = Math.max(1, Math.round(Math.hypot(x - fromX, y - fromY) / APART));
    return Array.from({ length: steps }, (_, step): Point => {
      const way = (step + 1) / steps;
      return [fromX + way * (x - fromX), fromY + way * (y - fromY)];
    });
  });
}

function isSame(places: readonly Place[], course: readonly Point[]): boolean {
  const covered = course.filter(([px, py]) => places.some(({ x, y, r }) => Math.hypot(x - px, y - py) < r));
  return covered.length > SAME * course.length;
}

/**
 * The pixels of a rectangle that are hidden by other open faults than the one that is mended, also where they cross it.
 *
 * @returns none where there are none
 */
export function hiddenAround(
  { id, fault, target }: MendBase,
  avoid: readonly Place[],
  rect: Rect,
  pictureWidth: number,
): MaskTarget | null {
  const byFault = new Map<string, Place[]>();
  for (const place of avoid) {
    const { of } = place;
    if (of === undefined || of === fault || of === id || !rectsMeet(placeRect(place), rect)) continue;
    const places = byFault.get(of) ?? [];
    places.push(place);
    byFault.set(of, places);
  }
  if (byFault.size === 0) return null;
  const course = pointsOf(target);
  const others = [...byFault.values()].filter((places) => !isSame(places, course)).flat();
  const marks = occupiedPixels(rect, { avoid: others }, pictureWidth);
  return marks.includes(1) ? maskOf(marks, rect) : null;
}
