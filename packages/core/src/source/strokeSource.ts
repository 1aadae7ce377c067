import type { Point } from '../target/target.ts';
import type { Shift } from './source.ts';

/** How the source of one stroke follows from the one before: the three ways of the hand. */
export type SourceWay =
  /** The shift of the first stroke stays for all that follow. */
  | 'keeps its offset'
  /** Every stroke begins at the place that was pointed at. */
  | 'starts anew'
  /** All of every stroke is taken from the place that was pointed at. */
  | 'stays fixed';

/** The source that was pointed at, and the shift of the last stroke made from it, if there was one. */
export interface PointedSource {
  readonly place: Point;
  readonly lastShift: Shift | null;
}

/** The shift for a new stroke that begins at a point. */
export function shiftForStroke(way: SourceWay, { place, lastShift }: PointedSource, start: Point): Shift {
  if (way === 'keeps its offset' && lastShift) return lastShift;
  return { dx: Math.round(place[0] - start[0]), dy: Math.round(place[1] - start[1]) };
}
