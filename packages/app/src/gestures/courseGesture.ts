import type { Gesture, PointerPlace } from '../canvas/usePointer.ts';
import type { LineKind, LineTable } from './lineGesture.ts';
import { lineGesture } from './lineGesture.ts';

/** A second click on the last point ends an open line. */
const COURSE: LineKind = { kind: 'course', endOf: (points) => points.at(-1), slop: 6 };

/** Draws an open line: freely, or point by point. */
export const courseGesture = (place: PointerPlace, table: LineTable): Gesture =>
  lineGesture(place, table, COURSE);
