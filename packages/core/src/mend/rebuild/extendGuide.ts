import { MOST_FOLLOWED, followEdge } from '../../examine/areas/followEdge.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import type { Window } from '../../raster/window.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import type { Guide } from './guide.ts';

/** The direction of a line's end is measured over so much of it, in pixels. */
const WAY = 10;
/** What an edge is followed for at least, in pixels: less of it is none. */
const LEAST_FOLLOWED = 8;

/** The rectangle that is looked at to extend a guide. */
export const extensionReads = ({ points }: Guide, picture: PictureShape): Rect =>
  intersectRects(
    growRect(targetBounds({ shape: 'stroke', points, width: 1 }, 0), MOST_FOLLOWED + WAY),
    pictureRect(picture),
  );

/** How an edge goes on beyond the last point of a line; nothing where there is none. */
function beyond(points: readonly Point[], { left, top, raster }: Window): Point[] {
  const last = points[points.length - 1];
  const back = points.findLast(([x, y]) => Math.hypot(x - last[0], y - last[1]) >= WAY) ?? points[0];
  const angle = Math.atan2(last[1] - back[1], last[0] - back[0]);
  const course = followEdge(lumaPlane(raster), [last[0] - left, last[1] - top], angle);
  const [endX, endY] = course[course.length - 1];
  if (Math.hypot(endX - course[0][0], endY - course[0][1]) < LEAST_FOLLOWED) return [];
  return course.slice(1).map(([x, y]): Point => [x + left, y + top]);
}

/**
 * Carries a guide on at both ends along the edge it was drawn on: the more of the edge it knows, the better it is known
 * what lies beside it.
 *
 * @param window holds {@link extensionReads}
 * @returns points in pixels of the upright original
 */
export const extendGuide = ({ points }: Guide, window: Window): Guide => ({
  points: [...beyond([...points].reverse(), window).reverse(), ...points, ...beyond(points, window)],
});
