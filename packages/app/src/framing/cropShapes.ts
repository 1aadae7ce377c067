import type { CropStep } from '@fennip/core/finish';

/** Shapes that a crop can be held to: longer over shorter side. Papers by their inches, A4 by ISO 216. */
export const CROP_SHAPES = {
  free: null,
  picture: 'picture',
  square: 1,
  '5:4': 5 / 4,
  '4:3': 4 / 3,
  '3:2': 3 / 2,
  '16:9': 16 / 9,
  '4x6': 6 / 4,
  '5x7': 7 / 5,
  '8x10': 10 / 8,
  A4: Math.SQRT2,
} as const;
export type CropShape = keyof typeof CROP_SHAPES;

export type Frame = Pick<CropStep, 'left' | 'top' | 'width' | 'height'>;

/** Width over height of a shape, as it lies for a frame that is wider or taller; null where it is free. */
export function proportionsOf(
  shape: CropShape,
  picture: { readonly width: number; readonly height: number },
  isTall: boolean,
): number | null {
  const sides = CROP_SHAPES[shape];
  if (sides === null) return null;
  const longer = sides === 'picture' ? longerOver(picture) : sides;
  return isTall ? 1 / longer : longer;
}

const longerOver = ({ width, height }: { readonly width: number; readonly height: number }): number =>
  Math.max(width, height) / Math.min(width, height);

/** Which sides of a frame are moved. */
export interface Pull {
  readonly x: -1 | 0 | 1;
  readonly y: -1 | 0 | 1;
}

const SMALLEST = 8;

/**
 * A frame whose sides were pulled by so many pixels. Held to proportions, it grows from what stays: the opposite corner,
 * or the middle of the opposite side.
 */
export function pulledFrame(
  frame: Frame,
  pull: Pull,
  dx: number,
  dy: number,
  proportions: number | null,
): Frame {
  if (pull.x === 0 && pull.y === 0)
    return { ...frame, left: Math.round(frame.left + dx), top: Math.round(frame.top + dy) };
  let width = Math.max(SMALLEST, frame.width + pull.x * dx);
  let height = Math.max(SMALLEST, frame.height + pull.y * dy);
  if (proportions !== null) {
    const isByWidth = pull.y === 0 || (pull.x !== 0 && width / frame.width >= height / frame.height);
    if (isByWidth) height = width / proportions;
    else width = height * proportions;
  }
  const held = (side: -1 | 0 | 1, start: number, before: number, after: number): number =>
    side < 0 ? start + before - after : side > 0 ? start : start + (before - after) / 2;
  return {
    left: Math.round(held(pull.x, frame.left, frame.width, width)),
    top: Math.round(held(pull.y, frame.top, frame.height, height)),
    width: Math.max(1, Math.round(width)),
    height: Math.max(1, Math.round(height)),
  };
}

/** The largest frame of some proportions in the middle of another. */
export function shapedFrame({ left, top, width, height }: Frame, proportions: number): Frame {
  const kept =
    width / height > proportions
      ? { width: Math.round(height * proportions), height }
      : { width, height: Math.round(width / proportions) };
  return {
    ...kept,
    left: Math.round(left + (width - kept.width) / 2),
    top: Math.round(top + (height - kept.height) / 2),
  };
}

/** The way from one frame that fits to another, as far as it fits. */
export function asFarAsItFits(from: Frame, to: Frame, fits: (frame: Frame) => boolean): Frame {
  if (fits(to)) return to;
  const between = (t: number): Frame => ({
    left: Math.round(from.left + t * (to.left - from.left)),
    top: Math.round(from.top + t * (to.top - from.top)),
    width: Math.round(from.width + t * (to.width - from.width)),
    height: Math.round(from.height + t * (to.height - from.height)),
  });
  let [near, far] = [0, 1];
  for (let k = 0; k < 10; k++) {
    const t = (near + far) / 2;
    if (fits(between(t))) near = t;
    else far = t;
  }
  return fits(between(near)) ? between(near) : from;
}
