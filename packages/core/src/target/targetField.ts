import type { PictureShape } from '../raster/raster.ts';
import { growRect, intersectRects, isEmpty, rectHolds } from '../raster/rect.ts';
import type { Rect } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { Target } from './target.ts';
import { targetBounds } from './targetBounds.ts';
import { targetDistance } from './targetDistance.ts';

/** A mend's target laid on the pixels of the picture. */
export interface TargetField {
  /** The pixels it is known for: all that the mend may change, and a band around them. */
  readonly rect: Rect;
  /** Distance in pixels from the target, row after row of `rect`. */
  readonly distance: Float32Array;
  /** How much of a pixel the mend may change, 0 to 1, row after row of `rect`; the share is not in it. */
  readonly coverage: Float32Array;
}

/** The part of a mend that says where it acts. */
export interface Reach {
  /** The measured fault, in pixels of the upright picture; the centre of the first pixel is (0.5, 0.5). */
  readonly target: Target;
  /** How far the mend reaches beyond the target at full effect, in pixels. */
  readonly margin: number;
  /** Width of the soft border that follows the margin, in pixels; 0 is a hard border. */
  readonly edge: number;
}

/**
 * The rectangle a mend may change: its target grown by margin and edge, inside the picture.
 *
 * @returns whole pixels of the upright original
 */
export const footprintRect = ({ target, margin, edge }: Reach, picture: PictureShape): Rect =>
  intersectRects(targetBounds(target, margin + edge), pictureRect(picture));

/** Full inside the margin, falling straight to nothing across the edge. */
export function coverageAt(distance: number, margin: number, edge: number): number {
  if (distance <= margin) return 1;
  return edge > 0 ? Math.max(0, 1 - (distance - margin) / edge) : 0;
}

/** True if a rectangle lies wholly inside an upright rectangular outline: areas of a whole picture are drawn so. */
function holdsAll(target: Target, rect: Rect): boolean {
  if (target.shape !== 'outline' || target.points.length !== 4) return false;
  const [[ax, ay], [bx, by], [cx, cy], [dx, dy]] = target.points;
  return ay === by && bx === cx && cy === dy && dx === ax && rectHolds(targetBounds(target, 0), rect);
}

/** The rectangle of {@link targetField}, which costs nothing to tell. */
export function fieldRect(reach: Reach, picture: PictureShape, band: number): Rect {
  const footprint = footprintRect(reach, picture);
  if (isEmpty(footprint)) return { ...footprint, width: 0, height: 0 };
  return intersectRects(growRect(footprint, band), pictureRect(picture));
}

/** Lays a target on the picture with a band of `band` pixels of surroundings. The rectangle may come out empty. */
export const targetField = (reach: Reach, picture: PictureShape, band: number): TargetField =>
  fieldOn(reach, fieldRect(reach, picture, band));

/**
 * Lays a target on a part of the picture.
 *
 * @param reach target, margin and edge, in pixels of the upright original
 */
export function fieldOn(reach: Reach, rect: Rect): TargetField {
  const distance = holdsAll(reach.target, rect)
    ? new Float32Array(rect.width * rect.height)
    : targetDistance(reach.target, rect);
  const coverage = new Float32Array(distance.length);
  for (let i = 0; i < distance.length; i++) coverage[i] = coverageAt(distance[i], reach.margin, reach.edge);
  return { rect, distance, coverage };
}
