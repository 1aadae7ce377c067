import { boxMean } from '../../filter/boxMean.ts';
import { reviveTexture } from '../../grain/reviveTexture.ts';
import { LUMA } from '../../light/luma.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects } from '../../raster/rect.ts';
import { knownVariance, measureCovariance } from './covariance.ts';
import { fillLeastBending } from './leastBending.ts';
import { offsetsWithin, predictPixels, spanOf, witnessesOf } from './predictPixels.ts';

/** The gap is closed square by square, each from its own surroundings: so it is cut where the surface changes. */
const SQUARE = 16;
/** Width in pixels of the surroundings that tell a square's texture. */
export const GAP_BAND = 20;
/** Tone is taken off before textures are compared, at the scale of two box means that reach so many pixels. */
const TREND_RADIUS = 9;
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
  readonly excluded: Uint8Array | null;
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

/** Two box means come close to a Gaussian, at a cost that does not grow with its width. */
function meanAround(data: Float32Array, width: number): Float32Array {
  const plane = { width, height: data.length / width, data };
  return boxMean(boxMean(plane, TREND_RADIUS), TREND_RADIUS).data;
}

/** The trend of what is known: a mean that leaves out what is not. */
function knownTrend(
  plane: Float32Array,
  known: Uint8Array,
  shares: Float32Array,
  width: number,
): Float32Array {
  const kept = new Float32Array(plane.length);
  for (let i = 0; i < kept.length; i++) kept[i] = known[i] ? plane[i] : 0;
  const trend = meanAround(kept, width);
  for (let i = 0; i < trend.length; i++) trend[i] = shares[i] > 1e-6 ? trend[i] / shares[i] : 0;
  return trend;
}

function minus(plane: Float32Array, other: Float32Array): Float32Array {
  const difference = plane.slice();
  for (let i = 0; i < difference.length; i++) difference[i] -= other[i];
  return difference;
}

/** Luma of the planes, 0 to 1. */
function lumaOf(values: readonly Float32Array[], top: number): Float32Array {
  const weights = values.length === 3 ? LUMA : [1];
  const luma = new Float32Array(values[0].length);
  values.forEach((plane, c) => {
    const weight = weights[c] / top;
    for (let i = 0; i < luma.length; i++) luma[i] += weight * plane[i];
  });
  return luma;
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
  errors: Float32Array,
  width: number,
  top: number,
): Float32Array[] | undefined {
  const isHeld = (error: number): boolean => error > 0 && error < Infinity;
  if (!errors.some(isHeld)) return undefined;
  return values.map((plane) => {
    const bending = usualBending(plane, known, width) + 1e-3;
    return errors.map((error) => (isHeld(error) ? bending / (error * top) ** 2 : 0));
  });
}

/** What is to be closed, what may be learnt from, and how surely each pixel is errors, as a share of full scale. */
interface Masks {
  readonly lost: Uint8Array;
  readonly known: Uint8Array;
  readonly errors: Float32Array;
}

function masksOf({ error, excluded }: Gap): Masks {
  const lost = new Uint8Array(error.length);
  const known = new Uint8Array(error.length);
  const errors = new Float32Array(error.length);
  for (let i = 0; i < error.length; i++) {
    const isExcluded = excluded !== null && excluded[i] === 1;
    lost[i] = !isExcluded && error[i] > 0 ? 1 : 0;
    known[i] = !isExcluded && error[i] === 0 ? 1 : 0;
    errors[i] = isExcluded ? Infinity : error[i] / 255;
  }
  return { lost, known, errors };
}

/** Predicts every lost pixel from its witnesses, square by square. @returns the values about their trend */
function predictLost(
  { values, width, top, reach }: Gap,
  { lost, known, errors }: Masks,
  trends: readonly Float32Array[],
  shares: Float32Array,
): Float32Array[] {
  const about = values.map((plane, c) => minus(plane, trends[c]));
  const own = lumaOf(values, top);
  const luma = minus(own, knownTrend(own, known, shares, width));
  const offsets = offsetsWithin(reach);
  const whole = { left: 0, top: 0, width, height: lost.length / width };
  const predicted = about.map((plane) => plane.slice());
  for (const { x, y, members } of lostBySquare(lost, width)) {
    const part = intersectRects(
      growRect({ left: x, top: y, width: SQUARE, height: SQUARE }, GAP_BAND),
      whole,
    );
    const size = part.width * part.height;
    const texture = cutOut(luma, width, part, new Float32Array(size));
    const mask = cutOut(known, width, part, new Uint8Array(size));
    const variance = knownVariance(texture, mask);
    const witnesses = members.map((at) => witnessesOf(errors, width, at, offsets, variance));
    const covariance = measureCovariance(texture, mask, part.width, Math.max(2, spanOf(witnesses)));
    predictPixels(about, width, members, witnesses, covariance, predicted);
  }
  return predicted;
}

/** The surface of least bending over all that is not known. */
function leastBent(
  { values, width, top }: Gap,
  { known, errors }: Masks,
  trends: readonly Float32Array[],
): Float32Array[] {
  // The search starts from the trend, so that nothing of what is not known is left in it.
  const smooth = values.map((plane, c) => {
    const start = plane.slice();
    for (let i = 0; i < start.length; i++) if (errors[i] === Infinity) start[i] = trends[c][i];
    return start;
  });
  const unknown = known.map((isKnown) => 1 - isKnown);
  fillLeastBending(smooth, unknown, width, holdOf(values, known, errors, width, top));
  return smooth;
}

/**
 * Closes a gap from its own sides: each lost pixel is predicted from the nearest known ones with the local texture's own
 * covariance, so that what runs across the gap runs on, and mixed with the surface of least bending; then the texture
 * is brought up to that of the surroundings.
 */
export function closeGap(gap: Gap): void {
  const { values, width, seed } = gap;
  const masks = masksOf(gap);
  const { lost, known, errors } = masks;
  const shares = meanAround(Float32Array.from(known), width);
  const trends = values.map((plane) => knownTrend(plane, known, shares, width));
  const predicted = predictLost(gap, masks, trends, shares);
  const smooth = leastBent(gap, masks, trends);
  values.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      if (known[i]) continue;
      // What a fence keeps is laid down nowhere, and must not be seen by the texture either.
      const own = lost[i] ? trends[c][i] + predicted[c][i] : smooth[c][i];
      plane[i] = own + SMOOTH_SHARE * (smooth[c][i] - own);
    }
  });
  const invented = new Uint8Array(lost.length);
  for (let i = 0; i < lost.length; i++) invented[i] = lost[i] && errors[i] > VAGUE ? 1 : 0;
  reviveTexture(values, invented, known, width, seed);
}
