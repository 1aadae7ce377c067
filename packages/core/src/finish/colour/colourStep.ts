import type { FinishBase } from '../stepBase.ts';

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
