import { columnOf } from '../measure/columnOf.ts';
import type { FloatPlane } from '../raster/float.ts';
import { lumaPlane } from '../raster/float.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, isEmpty, moveRect } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { Source } from './source.ts';

/** Luma around a source that is moved by whole pixels, converted once for all places a little away from it. */
export interface Nearby {
  readonly luma: FloatPlane;
  /** The target's rectangle, and where the source of its first pixel lies in the luma. */
  readonly width: number;
  readonly height: number;
  readonly x: number;
  readonly y: number;
}

/** What is read of a source: 1 where it lies inside the picture. */
export interface ReadLuma {
  readonly luma: Float32Array;
  readonly there: Uint8Array;
}

/** @param reach how far away it will be read, in pixels; null where all of that lies outside the picture */
export function nearbyLuma(pixels: Pixels, { dx, dy }: Source, rect: Rect, reach: number): Nearby | null {
  const area = intersectRects(growRect(moveRect(rect, dx, dy), reach), pictureRect(pixels.shape));
  if (isEmpty(area)) return null;
  const { width, height } = rect;
  const [x, y] = [rect.left + dx - area.left, rect.top + dy - area.top];
  return { luma: lumaPlane(pixels.window(area).raster), width, height, x, y };
}

/** True if all that is read by a whole shift lies inside of the picture. */
const holds = ({ luma, width, height, x, y }: Nearby, dx: number, dy: number): boolean =>
  x + dx >= 0 && y + dy >= 0 && x + dx + width <= luma.width && y + dy + height <= luma.height;

/** Weights of the four samples around a place a share of the way on from the second. (Catmull and Rom 1974.) */
const cubicWeights = (t: number): readonly [number, number, number, number] => [
  -0.5 * t + t * t - 0.5 * t ** 3,
  1 - 2.5 * t * t + 1.5 * t ** 3,
  0.5 * t + 2 * t * t - 1.5 * t ** 3,
  -0.5 * t * t + 0.5 * t ** 3,
];

/**
 * Reads luma a little away from a plain source. Between pixels it is cubic, which is enough to come near; the last steps
 * of a fit read as finely as what is laid down.
 */
export function readNearby(nearby: Nearby, dx: number, dy: number): ReadLuma {
  const { luma: whole, width, height } = nearby;
  const luma = new Float32Array(width * height);
  const there = new Uint8Array(width * height);
  const [wholeX, wholeY] = [Math.floor(dx), Math.floor(dy)];
  const [across, down] = [cubicWeights(dx - wholeX), cubicWeights(dy - wholeY)];
  const border = dx !== wholeX || dy !== wholeY ? 2 : 0;
  const { data } = whole;
  for (let row = 0, i = 0; row < height; row++) {
    const y = nearby.y + row + wholeY;
    for (let column = 0; column < width; column++, i++) {
      const x = nearby.x + column + wholeX;
      if (x < border || y < border || x >= whole.width - border || y >= whole.height - border) continue;
      const at = y * whole.width + x;
      there[i] = 1;
      if (border === 0) {
        luma[i] = data[at];
        continue;
      }
      let sum = 0;
      for (let k = 0; k < 4; k++) {
        const from = at + (k - 1) * whole.width - 1;
        sum +=
          down[k] *
          (across[0] * data[from] +
            across[1] * data[from + 1] +
            across[2] * data[from + 2] +
            across[3] * data[from + 3]);
      }
      luma[i] = sum;
    }
  }
  return { luma, there };
}

/** The target's values on a ring, with what a correlation needs of them. */
export interface RingValues {
  /** As indices of the target's rectangle. */
  readonly places: Int32Array;
  readonly values: Float64Array;
  readonly sum: number;
  readonly squares: number;
}

export function ringValues(places: readonly number[], target: Float32Array): RingValues {
  const values = columnOf(Float64Array, places, (place) => target[place]);
  let [sum, squares] = [0, 0];
  for (const value of values) {
    sum += value;
    squares += value * value;
  }
  return { places: Int32Array.from(places), values, sum, squares };
}

/** Fewer places than this tell nothing. */
const LEAST_PLACES = 8;

/** The correlation of the ring with what lies a whole shift away, -1 to 1; null where some of that is not in the picture. */
export function correlationNearby(
  nearby: Nearby,
  { places, values, sum, squares }: RingValues,
  dx: number,
  dy: number,
): number | null {
  if (!holds(nearby, dx, dy)) return null;
  const n = places.length;
  if (n < LEAST_PLACES) return -1;
  const { data, width: stride } = nearby.luma;
  const first = (nearby.y + dy) * stride + nearby.x + dx;
  const rest = stride - nearby.width;
  let [other, otherSquares, products] = [0, 0, 0];
  for (let k = 0; k < n; k++) {
    const value = data[first + places[k] + rest * Math.floor(places[k] / nearby.width)];
    other += value;
    otherSquares += value * value;
    products += values[k] * value;
  }
  const variance = (squares - (sum * sum) / n) * (otherSquares - (other * other) / n);
  return variance > 1e-12 ? (products - (sum * other) / n) / Math.sqrt(variance) : -1;
}
