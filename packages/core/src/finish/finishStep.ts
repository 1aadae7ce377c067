import type { Point } from '../target/target.ts';
import type { Tone } from './tone.ts';

/** What every step of the finish has. */
export interface FinishBase {
  readonly id: string;
  /** A step that is off stays in the recipe and changes nothing. */
  readonly on: boolean;
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

/** A step after the mends. */
export type FinishStep = LevelsStep | CurveStep | ColourStep;
export type FinishName = FinishStep['method'];
export const FINISHES = ['levels', 'curve', 'colour'] as const satisfies readonly FinishName[];
