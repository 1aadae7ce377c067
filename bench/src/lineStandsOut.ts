import type { FloatPlane } from '@fennip/core/bench';
import { acrossPath } from '@fennip/core/bench';
import type { LaidFault } from '@fennip/scenes';

/** A line that steps by as much as what lies beside it varies, along half of its course, is seen. */
export const SEEN_LINE = 1;

/** A line is measured at every so many pixels. */
const APART = 2;
/** Both sides are read so far beyond its border, and so deep, in pixels. */
const [FROM, DEEP] = [1.5, 6];
/** What lies beside a place is what lies beside it and so many places before and after it. */
const ALONG = 3;
/** Half a code of 255: what lies around is never calmer to the eye. */
const LEAST = 0.5 / 255;

interface Sums {
  sum: number;
  square: number;
  count: number;
}

const middleOf = (values: number[]): number => values.sort((a, b) => a - b)[values.length >> 1] ?? 0;

/**
 * How far a line stands out from what lies beside it: its step, the way of its polarity, in spreads of both sides; the
 * middle of all places along it.
 *
 * @param luma encoded, 0 to 1
 */
export function lineStandsOut(
  { data, width, height }: FloatPlane,
  { path = [], r, polarity }: Pick<LaidFault, 'path' | 'r' | 'polarity'>,
): number {
  const at = (x: number, y: number): number => {
    const px = Math.max(0, Math.min(width - 1, Math.floor(x)));
    return data[Math.max(0, Math.min(height - 1, Math.floor(y))) * width + px];
  };
  const places = acrossPath(path, APART);
  const cores = places.map(({ x, y }) => at(x, y));
  const sides = places.map(({ x, y, nx, ny }): Sums => {
    const own = { sum: 0, square: 0, count: 0 };
    for (const side of [-1, 1])
      for (let k = 0; k < DEEP; k++) {
        const away = side * (r + FROM + k);
        const value = at(x + away * nx, y + away * ny);
        own.sum += value;
        own.square += value * value;
        own.count++;
      }
    return own;
  });
  const sign = polarity === 'dark' ? 1 : -1;
  return middleOf(
    places.map((_, k) => {
      let [sum, square, count] = [0, 0, 0];
      for (const beside of sides.slice(Math.max(0, k - ALONG), k + ALONG + 1)) {
        sum += beside.sum;
        square += beside.square;
        count += beside.count;
      }
      const mean = sum / count;
      const spread = Math.sqrt(Math.max(0, square / count - mean * mean));
      return (sign * (mean - cores[k])) / (spread + LEAST);
    }),
  );
}
