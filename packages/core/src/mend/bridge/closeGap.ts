import { gaussianBlur } from '../../filter/gaussian.ts';
import { reviveTexture } from '../../grain/reviveTexture.ts';
import { LUMA } from '../../colour/luma.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import { measureCovariance } from './covariance.ts';
import { fillLeastBending } from './leastBending.ts';
import { offsetsWithin, predictPixel } from './predictPixel.ts';

/** The gap is closed square by square, each from its own surroundings: so it is cut where the surface changes. */
const SQUARE = 16;
/** Width in pixels of the surroundings that tell a square's texture. */
export const GAP_BAND = 20;
/** Scale in pixels of the tone that is taken off before textures are compared. */
const TREND = 8;
/** Share of the surface of least bending in the result: the two err in different ways, so together they err less. */
const SMOOTH_SHARE = 0.4;

/** From this standard error on, as a share of full scale, a pixel's texture counts as invented. */
const VAGUE = 6 / 255;

/** A picture with a gap in it. */
export interface Gap {
  /** Code values, one array for each colour channel, row after row; changed in place. */
  readonly values: readonly Float32Array[];
  readonly width: number;
  /** Largest code value. */
  readonly top: number;
  /**
   * Standard error of each pixel's value in codes of 255: 0 where it is known, infinite where nothing is. What lies
   * between is weighed against its surroundings.
   */
  readonly error: Float32Array;
  /** 1 where a pixel may not be learnt from (beyond a fence): filled smoothly, whatever it holds. */
  readonly barred: Uint8Array | null;
  /** How far from a lost pixel known ones are looked for, in pixels. */
  readonly reach: number;
  /** The same seed gives the same grain. */
  readonly seed: number;
}

/** Squares of the rectangle that hold lost pixels, with the indices of those. */
function lostBySquare(lost: Uint8Array, width: number): { x: number; y: number; members: number[] }[] {
  const squares = new Map<string, { x: number; y: number; members: number[] }>();
  for (let i = 0; i < lost.length; i++) {
    if (!lost[i]) continue;
    const x = Math.floor((i % width) / SQUARE) * SQUARE;
    const y = Math.floor(i / width / SQUARE) * SQUARE;
    const key = `${x},${y}`;
    const square = squares.get(key);
    if (square) square.members.push(i);
    else squares.set(key, { x, y, members: [i] });
  }
  return [...squares.values()];
}

/** Cuts a part out of row-by-row data. */
function cutOut<T extends Float32Array | Uint8Array>(data: T, width: number, part: Rect, onto: T): T {
  for (let y = 0; y < part.height; y++) {
    const from = (part.top + y) * width + part.left;
    onto.set(data.subarray(from, from + part.width), y * part.width);
  }
  return onto;
}

/** The trend of what is known, at the scale of {@link TREND}: a mean that leaves out what is not. */
function knownTrend(plane: Float32Array, known: Uint8Array, width: number): Float32Array {
  const height = plane.length / width;
  const blurred = (data: Float32Array): Float32Array => gaussianBlur({ width, height, data }, TREND).data;
  const sums = blurred(plane.map((value, i) => (known[i] ? value : 0)));
  const counts = blurred(Float32Array.from(known));
  return sums.map((sum, i) => (counts[i] > 1e-6 ? sum / counts[i] : 0));
}

const minus = (plane: Float32Array, other: Float32Array): Float32Array =>
  plane.map((value, i) => value - other[i]);

/** Luma of the planes, 0 to 1. */
function lumaOf(values: readonly Float32Array[], top: number): Float32Array {
  const weights = values.length === 3 ? LUMA : [1];
  return values[0].map((_, i) => values.reduce((sum, plane, c) => sum + weights[c] * plane[i], 0) / top);
}

/** Mean square of the Laplacian where a picture is known: how far it bends by itself. */
function usualBending(plane: Float32Array, known: Uint8Array, width: number): number {
  let [sum, count] = [0, 0];
  for (let i = width; i + width < plane.length; i++) {
    const column = i % width;
    if (column === 0 || column === width - 1) continue;
    if (!known[i] || !known[i - 1] || !known[i + 1] || !known[i - width] || !known[i + width]) continue;
    sum += (plane[i - 1] + plane[i + 1] + plane[i - width] + plane[i + width] - 4 * plane[i]) ** 2;
    count++;
  }
  return count > 0 ? sum / count : 0;
}

/** How strongly the surface of least bending is held where something is known of a pixel: by the inverse variances. */
function holdOf(
  values: readonly Float32Array[],
  known: Uint8Array,
  told: Float32Array,
  width: number,
  top: number,
): Float32Array[] {
  return values.map((plane) => {
    const bending = usualBending(plane, known, width) + 1e-3;
    return told.map((error) => (error === Infinity || error === 0 ? 0 : bending / (error * top) ** 2));
  });
}

/**
 * Closes a gap from its own sides: each lost pixel is predicted from the nearest known ones with the local texture's own
 * covariance, so that what runs across the gap runs on, and mixed with the surface of least bending; then the texture
 * is brought up to that of the surroundings.
 */
export function closeGap({ values, width, top, error, barred, reach, seed }: Gap): void {
  const isBarred = (i: number): boolean => barred !== null && barred[i] === 1;
  const lost = Uint8Array.from(error, (one, i) => (one > 0 && !isBarred(i) ? 1 : 0));
  const known = Uint8Array.from(error, (one, i) => (one === 0 && !isBarred(i) ? 1 : 0));
  const told = Float32Array.from(error, (one, i) => (isBarred(i) ? Infinity : one / 255));
  const trends = values.map((plane) => knownTrend(plane, known, width));
  const about = values.map((plane, c) => minus(plane, trends[c]));
  const own = lumaOf(values, top);
  const luma = minus(own, knownTrend(own, known, width));
  const offsets = offsetsWithin(reach);
  const whole = { left: 0, top: 0, width, height: lost.length / width };
  const predicted = about.map((plane) => plane.slice());
  for (const { x, y, members } of lostBySquare(lost, width)) {
    const part = intersectRects(
      growRect({ left: x, top: y, width: SQUARE, height: SQUARE }, GAP_BAND),
      whole,
    );
    const size = part.width * part.height;
    const covariance = measureCovariance(
      cutOut(luma, width, part, new Float32Array(size)),
      cutOut(known, width, part, new Uint8Array(size)),
      part.width,
      Math.min(2 * reach, 24),
    );
    for (const at of members) predictPixel(about, told, width, at, offsets, covariance, predicted);
  }
  // The search for the surface starts from the trend, so that nothing of what is not known is left in it.
  const smooth = values.map((plane, c) =>
    plane.map((value, i) => (told[i] === Infinity ? trends[c][i] : value)),
  );
  fillLeastBending(
    smooth,
    known.map((isKnown) => 1 - isKnown),
    width,
    holdOf(values, known, told, width, top),
  );
  values.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++)
      if (!known[i]) plane[i] = trends[c][i] + (lost[i] ? predicted[c][i] : 0);
  });
  values.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      if (lost[i]) plane[i] += SMOOTH_SHARE * (smooth[c][i] - plane[i]);
      // What a fence keeps is laid down nowhere, and must not be seen by the texture either.
      else if (!known[i]) plane[i] = smooth[c][i];
    }
  });
  const invented = told.map((one, i) => (lost[i] && one > VAGUE ? 1 : 0));
  reviveTexture(values, Uint8Array.from(invented), known, width, seed);
}
