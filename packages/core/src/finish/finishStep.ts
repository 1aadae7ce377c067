import type { Point } from '../target/target.ts';
import type { Tone } from './tone.ts';

interface StepBase {
  readonly id: string;
  /** A step that is off stays in the recipe and changes nothing. */
  readonly on: boolean;
}

/** What every step that changes values has. */
export interface FinishBase extends StepBase {
  /** How much of it shows, 0 to 1. */
  readonly share: number;
  /** The zone that it is bounded by, by id; all of the picture where it is missing. Guards do not bound the finish. */
  readonly zone?: string;
}

/** Black, white and the middle, on encoded values. */
export interface LevelsStep extends FinishBase {
  readonly method: 'levels';
  /** One for all channels, or one for each. */
  readonly tones: readonly Tone[];
}

/** A smooth curve through points, on encoded values, the same for all channels. */
export interface CurveStep extends FinishBase {
  readonly method: 'curve';
  /** Where a value comes to lie, both 0 to 1, from left to right; at least two. */
  readonly points: readonly Point[];
}

/** White balance and saturation, in linear light. */
export interface ColourStep extends FinishBase {
  readonly method: 'colour';
  /** Stops by which red is raised against blue, -2 to 2: warmer above 0. */
  readonly temperature: number;
  /** Stops by which green is lowered against red and blue, -2 to 2. */
  readonly tint: number;
  /** Factor of the distance from grey of the same luminance: 0 takes the colour out, 1 leaves it. Up to 3. */
  readonly saturation: number;
}

/** Local contrast of lightness alone, on encoded luma. */
export interface ContrastStep extends FinishBase {
  readonly method: 'contrast';
  /** How much of what stands out is added once more, -1 to 3. */
  readonly amount: number;
  /** Size of what is to stand out, in pixels. */
  readonly size: number;
}

/** What sharpens: what a blur takes away is added, or the picture's own blur is undone. */
export const SHARPEN_WAYS = ['unsharp', 'deconvolve'] as const;

/** Sharpening of lightness alone. */
export interface SharpenStep extends FinishBase {
  readonly method: 'sharpen';
  /** `unsharp` works on encoded luma; `deconvolve` undoes a Gaussian blur in linear light. */
  readonly way: (typeof SHARPEN_WAYS)[number];
  /** Standard deviation of the blur, in pixels. */
  readonly radius: number;
  /** How much of the difference is added, 0 to 5. */
  readonly amount: number;
  /** Differences up to this are grain and are not sharpened, in encoded luma, 0 to 1. */
  readonly threshold: number;
}

/** A Gaussian blur in linear light. */
export interface SoftenStep extends FinishBase {
  readonly method: 'soften';
  /** Its standard deviation, in pixels. */
  readonly radius: number;
}

/** What every step that frames has: it does so to all of the picture, or not at all. */
interface FramingBase extends StepBase {
  readonly share: 1;
}

/** Radial distortion of a lens, undone. */
export interface LensStep extends FramingBase {
  readonly method: 'lens';
  /**
   * What is seen at a distance r from the middle, in half diagonals of the picture, lies in the original at
   * `r (1 + k1 r² + k2 r⁴)`: the radial model of Brown 1966. Barrels have a negative `k1`.
   */
  readonly k1: number;
  readonly k2: number;
}

/** Turned about the middle of the picture. */
export interface StraightenStep extends FramingBase {
  readonly method: 'straighten';
  /** Radians by which the picture is turned clockwise. */
  readonly angle: number;
}

/** What is kept of the picture, in whole pixels of the picture as it lies after lens and straightening. */
export interface CropStep extends FramingBase {
  readonly method: 'crop';
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** A step that changes values where they are. */
export type ValueStep = LevelsStep | CurveStep | ColourStep | ContrastStep | SharpenStep | SoftenStep;
/** A step that changes where they are seen; of each kind there is at most one, and they come after all others. */
export type FramingStep = LensStep | StraightenStep | CropStep;
/** A step after the mends. */
export type FinishStep = ValueStep | FramingStep;
export type FinishName = FinishStep['method'];
export const FINISHES = [
  'levels',
  'curve',
  'colour',
  'contrast',
  'sharpen',
  'soften',
  'lens',
  'straighten',
  'crop',
] as const satisfies readonly FinishName[];

const FRAMINGS: readonly FinishName[] = ['lens', 'straighten', 'crop'];

export const isFramingStep = (step: FinishStep): step is FramingStep => FRAMINGS.includes(step.method);

/** The zone that a step is bounded by; none for what frames. */
export const zoneOfStep = (step: FinishStep): string | undefined =>
  isFramingStep(step) ? undefined : step.zone;
