import type { Point } from '../../target/target.ts';
import type { FinishStep } from '../finishStep.ts';

/** How a picture lies as it is finished: corrected, turned and cropped. */
export interface Framing {
  /** Sides of what is seen, in pixels. */
  readonly width: number;
  readonly height: number;
  /** Where a place of what is seen lies in the upright original. The centre of a first pixel is (0.5, 0.5). */
  toOriginal(x: number, y: number): Point;
  /** Where a place of the original is seen. */
  toFramed(x: number, y: number): Point;
  /** True if pixels are only left out, and every other one stays what it is. */
  readonly isCutOnly: boolean;
  /** The same way to the original as numbers. */
  readonly bend: Bend;
}

/**
 * How what is seen lies in the original: `(left, top)` is added, what comes out is turned back about the middle, and its
 * distance from there, as a share `d` of half the diagonal, grows to `1 + k1 d^2 + k2 d^4` times what it was.
 */
export interface Bend {
  readonly left: number;
  readonly top: number;
  readonly middle: Point;
  readonly cos: number;
  readonly sin: number;
  /** Half the diagonal, in pixels. */
  readonly half: number;
  readonly k1: number;
  readonly k2: number;
}

interface Size {
  readonly width: number;
  readonly height: number;
}

/** Rounds until a distance is found; each gains about two figures. */
const ROUNDS = 12;
/** Nearer to its fold than this slope a lens is no longer corrected: distances there cannot be distinguished. */
const LEAST_SLOPE = 0.1;
/** The frame is fitted as closely, as a share of its sides. */
const FIT_TO = 1e-6;

/** The last step of a kind that is on: there is at most one in a recipe that was checked. */
const lastOf = <Name extends FinishStep['method']>(
  steps: readonly FinishStep[],
  method: Name,
): Extract<FinishStep, { method: Name }> | undefined =>
  steps.findLast((step): step is Extract<FinishStep, { method: Name }> => step.on && step.method === method);

/** How fast distorted distances rise with the true ones, at a squared distance. */
const slopeAt = (square: number, k1: number, k2: number): number =>
  1 + 3 * k1 * square + 5 * k2 * square * square;

/** True if distances up to one, squared, rise well enough to be told apart: no fold of the lens is near. */
function isRising(upTo: number, k1: number, k2: number): boolean {
  const turn = k2 === 0 ? 0 : (-3 * k1) / (10 * k2);
  const squares = turn > 0 && turn < upTo ? [turn, upTo] : [upTo];
  return squares.every((square) => slopeAt(square, k1, k2) >= LEAST_SLOPE);
}

/** The distance whose distorted one is given: Newton's method on a polynomial that rises where lenses are. */
function undistorted(distance: number, k1: number, k2: number): number {
  let r = distance;
  for (let round = 0; round < ROUNDS; round++) {
    const square = r * r;
    const slope = slopeAt(square, k1, k2);
    if (slope < LEAST_SLOPE / 2) break;
    r -= (r * (1 + k1 * square + k2 * square * square) - distance) / slope;
  }
  return r;
}

/** Places of the picture as it lies after lens and straightening, and of the original. */
function mapping({ width, height }: Size, steps: readonly FinishStep[]) {
  const { k1, k2 } = lastOf(steps, 'lens') ?? { k1: 0, k2: 0 };
  const angle = lastOf(steps, 'straighten')?.angle ?? 0;
  const [cx, cy, half] = [width / 2, height / 2, Math.hypot(width, height) / 2];
  const [cos, sin] = [Math.cos(angle), Math.sin(angle)];
  return {
    bend: { middle: [cx, cy] as const, cos, sin, half, k1, k2 },
    isStill: k1 === 0 && k2 === 0 && angle === 0,
    isAcross: Math.abs(sin) > Math.abs(cos),
    /** True if a frame whose corner lies so far from the middle, in pixels, holds no fold of the lens. */
    isClearTo: (distance: number): boolean => isRising((distance / half) ** 2, k1, k2),
    toOriginal(x: number, y: number): Point {
      const [u, v] = [x - cx, y - cy];
      const [a, b] = [cos * u + sin * v, cos * v - sin * u];
      const square = (a * a + b * b) / (half * half);
      const widen = 1 + k1 * square + k2 * square * square;
      return [cx + a * widen, cy + b * widen];
    },
    fromOriginal(x: number, y: number): Point {
      const [a, b] = [x - cx, y - cy];
      const distance = Math.hypot(a, b) / half;
      const narrow = distance === 0 || (k1 === 0 && k2 === 0) ? 1 : undistorted(distance, k1, k2) / distance;
      return [cx + narrow * (cos * a - sin * b), cy + narrow * (sin * a + cos * b)];
    },
  };
}

const STEPS_ALONG = 16;

type Mapping = ReturnType<typeof mapping>;

/** True if a frame of the corrected picture shows nothing beyond the original, and every place of it once. */
function fits(
  picture: Size,
  frame: Size & { readonly left: number; readonly top: number },
  { toOriginal, isClearTo }: Mapping,
): boolean {
  const { left, top } = frame;
  const across = Math.max(picture.width / 2 - left, left + frame.width - picture.width / 2);
  const down = Math.max(picture.height / 2 - top, top + frame.height - picture.height / 2);
  if (!isClearTo(Math.hypot(across, down))) return false;
  for (let k = 0; k <= STEPS_ALONG; k++) {
    const [x, y] = [left + (frame.width * k) / STEPS_ALONG, top + (frame.height * k) / STEPS_ALONG];
    for (const [px, py] of [
      toOriginal(x, top),
      toOriginal(x, top + frame.height),
      toOriginal(left, y),
      toOriginal(left + frame.width, y),
    ])
      if (px < -1e-6 || py < -1e-6 || px > picture.width + 1e-6 || py > picture.height + 1e-6) return false;
  }
  return true;
}

/** Sides laid about the middle of a picture. */
const centred = (picture: Size, { width, height }: Size): Size & { left: number; top: number } => ({
  ...{ left: (picture.width - width) / 2, top: (picture.height - height) / 2 },
  ...{ width, height },
});

/** The largest frame of the picture's proportions about its middle that shows nothing beyond it, in whole pixels. */
function largestFrame(picture: Size, map: Mapping): Size {
  const [w, h] = map.isAcross ? [picture.height, picture.width] : [picture.width, picture.height];
  // A pincushion shows more than the original's sides hold.
  let [least, most] = [0, 1.5];
  while (most - least > FIT_TO) {
    const scale = (least + most) / 2;
    if (fits(picture, centred(picture, { width: w * scale, height: h * scale }), map)) least = scale;
    else most = scale;
  }
  const whole = (side: number): number => Math.max(1, Math.floor(side * least + 0.01));
  return { width: whole(w), height: whole(h) };
}

/**
 * How a picture lies under the steps of its framing: the lens is corrected about the middle, then the picture is turned
 * about it, then cropped. Without a crop the largest frame of the picture's proportions is shown that holds nothing
 * beyond the original.
 *
 * @param picture sides of the upright original, in pixels
 * @returns null where no step frames anything
 */
export function framingOf(picture: Size, steps: readonly FinishStep[]): Framing | null {
  const map = mapping(picture, steps);
  const crop = lastOf(steps, 'crop');
  if (map.isStill && !crop) return null;
  const { left, top, width, height } = crop ?? centred(picture, largestFrame(picture, map));
  return {
    width,
    height,
    toOriginal: (x, y) => map.toOriginal(x + left, y + top),
    toFramed: (x, y) => {
      const [px, py] = map.fromOriginal(x, y);
      return [px - left, py - top];
    },
    isCutOnly: map.isStill,
    bend: { ...map.bend, left, top },
  };
}

/**
 * True if a place of the original is seen; without a framing all of it is.
 *
 * @param x in pixels of the upright original, as `y` is
 */
export function isInFrame(framing: Framing | null, x: number, y: number): boolean {
  if (!framing) return true;
  const [seenX, seenY] = framing.toFramed(x, y);
  return seenX >= 0 && seenY >= 0 && seenX <= framing.width && seenY <= framing.height;
}

/**
 * All that a crop could show: the picture's sides about its middle, as they lie once it is turned.
 *
 * @returns in pixels of the straightened picture
 */
export function wholePlane(
  picture: Size,
  steps: readonly FinishStep[],
): Size & { left: number; top: number } {
  if (!mapping(picture, steps).isAcross)
    return { left: 0, top: 0, width: picture.width, height: picture.height };
  const left = Math.round((picture.width - picture.height) / 2);
  return { left, top: -left, width: picture.height, height: picture.width };
}

/**
 * The frame that a crop takes the place of: where it lies in the picture after lens and straightening.
 *
 * @returns in pixels of the straightened picture
 */
export function uncropped(picture: Size, steps: readonly FinishStep[]): Size & { left: number; top: number } {
  const map = mapping(picture, steps);
  const frame = map.isStill ? picture : largestFrame(picture, map);
  return {
    left: Math.ceil((picture.width - frame.width) / 2),
    top: Math.ceil((picture.height - frame.height) / 2),
    width: frame.width,
    height: frame.height,
  };
}

/**
 * True if a crop shows nothing beyond the original.
 *
 * @param picture sides of the upright original, in pixels
 * @param crop in pixels of the straightened picture
 */
export function cropFits(
  picture: Size,
  steps: readonly FinishStep[],
  crop: { readonly left: number; readonly top: number; readonly width: number; readonly height: number },
): boolean {
  return fits(picture, crop, mapping(picture, steps));
}
