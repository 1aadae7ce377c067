import type { Fault } from '../../fault/fault.ts';
import type { FloatPlane } from '../../raster/float.ts';
import type { PathStation } from '../lines/acrossPath.ts';

/** How a line looks against what lies on both sides of it. */
export interface LineAppearance {
  /** The share of its places that step the way of its polarity. */
  readonly evenness: number;
  /** Its mean step over the spread of its steps: small where it comes and goes. */
  readonly sureness: number;
  /** The step against the nearer of both sides, and how far the two differ, as shares of the mean step: the border of a surface has a step to one side only. */
  readonly weakerSide: number;
  readonly sidesDiffer: number;
}

/** A side is read so far beyond the border of a line, and so deep, in pixels. */
const [FROM, DEEP] = [1.5, 3];
/** Half a code of 255: what lies around is never calmer to the eye. */
const LEAST = 0.5 / 255;
/** Ratios to a step that hardly is one say no more than this. */
const MOST = 4;

/**
 * Measures how a line looks.
 *
 * @param places along it
 * @param luma encoded, 0 to 1, of the whole picture
 */
export function lineAppearance(
  places: readonly PathStation[],
  { r, polarity }: Pick<Fault, 'r' | 'polarity'>,
  { data, width, height }: FloatPlane,
): LineAppearance {
  const at = (x: number, y: number): number => {
    const px = Math.max(0, Math.min(width - 1, Math.floor(x)));
    return data[Math.max(0, Math.min(height - 1, Math.floor(y))) * width + px];
  };
  const sideOf = ({ x, y, nx, ny }: PathStation, side: 1 | -1): number => {
    let sum = 0;
    for (let k = 0; k < DEEP; k++) {
      const away = side * (r + FROM + k);
      sum += at(x + away * nx, y + away * ny);
    }
    return sum / DEEP;
  };
  const sign = polarity === 'dark' ? 1 : -1;
  let [sum, square, right, weaker, differ] = [0, 0, 0, 0, 0];
  for (const place of places) {
    const core = at(place.x, place.y);
    const [left, other] = [sideOf(place, -1), sideOf(place, 1)];
    const step = sign * ((left + other) / 2 - core);
    sum += step;
    square += step * step;
    if (step > 0) right++;
    weaker += sign > 0 ? Math.min(left, other) - core : core - Math.max(left, other);
    differ += left - other;
  }
  const count = Math.max(1, places.length);
  const mean = sum / count;
  const share = Math.max(LEAST, Math.abs(mean));
  const bounded = (value: number): number => Math.max(-MOST, Math.min(MOST, value));
  return {
    evenness: right / count,
    sureness: bounded(mean / (Math.sqrt(Math.max(0, square / count - mean * mean)) + LEAST)),
    weakerSide: bounded(weaker / count / share),
    sidesDiffer: bounded(Math.abs(differ / count) / share),
  };
}
