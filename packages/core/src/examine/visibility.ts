import { faultArea } from './faultArea.ts';
import type { Fault } from '../fault/fault.ts';
import { ownTone } from './ownTone.ts';

/** What the visibility of a fault depends on. */
export type Seen = Pick<Fault, 'polarity' | 'r' | 'strength' | 'tone' | 'path' | 'outline'>;

/** A picture is looked at from as far away as its diagonal is long; half a degree is then this share of it. */
const HALF_DEGREE = Math.tan((0.5 * Math.PI) / 180);

/**
 * How visible a fault will be when the picture is finished, from 0: its step in tone after the finish, times its size
 * as long as that is small. Contrast thresholds fall with the square root of the area of a small target (Piper's law)
 * and no more with that of a large one; encoded values stand for evenly spaced lightness. 1 is a step from black to
 * white of half a degree or more, seen from one diagonal away.
 *
 * @param fault its radius in pixels, its step in encoded values of 0 to 1
 * @param finish what becomes of a tone of 0 to 1
 * @param diagonal of the picture, in pixels
 */
export function visibilityOf(fault: Seen, finish: (tone: number) => number, diagonal: number): number {
  const { around, own } = ownTone(fault);
  const step = Math.abs(finish(around) - finish(own));
  // As large as a disc of the same area.
  const size = Math.sqrt(faultArea(fault) / Math.PI);
  return step * Math.min(1, size / (HALF_DEGREE * diagonal));
}
