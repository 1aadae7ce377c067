import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { LineKind, LineTable } from './lineGesture.ts';
import { lineGesture } from './lineGesture.ts';

/** A polygon closes when its first corner is clicked; it has three at least. */
const OUTLINE: LineKind = {
  kind: 'outline',
  endOf: (points) => (points.length >= 3 ? points[0] : undefined),
  slop: 9,
};

/** Draws an outline: freely, or corner by corner until the first is clicked again. */
export const outlineGesture = (place: PointerPlace, table: LineTable): Gesture =>
  lineGesture(place, table, OUTLINE);
