import type { Tone } from '../finish/tone.ts';
import { tonedValue } from '../finish/tone.ts';
import type { Fault } from './fault.ts';

/** What the visibility of a fault depends on. */
export type Seen = Pick<Fault, 'polarity' | 'r' | 'strength' | 'tone' | 'path' | 'outline'>;

/** Tone around a fault of which it was not measured, in encoded luma. */
const MIDDLE = 0.5;
/** A picture is looked at from as far away as its diagonal is long; half a degree is then this share of it. */
const HALF_DEGREE = Math.tan((0.5 * Math.PI) / 180);

/** Luma of the fault itself, from its surroundings and its depth. */
const ownTone = ({ polarity, strength, tone = MIDDLE }: Seen): number =>
  Math.min(1, Math.max(0, polarity === 'dark' ? tone - strength : tone + strength));

/** The radius of the disc that a fault is as large as, in pixels. */
function sizeOf({ r, path }: Seen): number {
  if (!path) return r;
  const length = path.reduce(
    (sum, [x, y], i) => (i === 0 ? 0 : sum + Math.hypot(x - path[i - 1][0], y - path[i - 1][1])),
    0,
  );
  return Math.sqrt((2 * r * length) / Math.PI);
}

/**
 * How visible a fault will be when the picture is finished, from 0: its step in tone after the finish, times its size
 * as long as that is small. Contrast thresholds fall with the square root of the area of a small target (Piper's law)
 * and no more with that of a large one; encoded values stand for evenly spaced lightness. 1 is a step from black to
 * white of half a degree or more, seen from one diagonal away.
 *
 * @param diagonal of the picture, in pixels
 */
export function visibilityOf(fault: Seen, finish: Tone, diagonal: number): number {
  const { tone = MIDDLE } = fault;
  const step = Math.abs(tonedValue(tone, finish) - tonedValue(ownTone(fault), finish));
  return step * Math.min(1, sizeOf(fault) / (HALF_DEGREE * diagonal));
}
