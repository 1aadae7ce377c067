import type { KnownVeil } from '../veil/veil.ts';
import type { FaultKind } from './kinds.ts';

/** Darker or brighter than its surroundings. */
export type Polarity = 'dark' | 'bright';

/** A flaw as it was measured. Pixels of the upright picture; the centre of the first pixel is (0.5, 0.5). */
export interface Fault {
  readonly kind: FaultKind;
  readonly polarity: Polarity;
  readonly x: number;
  readonly y: number;
  /** Radius in pixels at half the depth. */
  readonly r: number;
  /** Depth against the surroundings in encoded luma, 0 to 1. */
  readonly strength: number;
  /** Width of the border over the radius: 0 is cut sharp, 1 is soft all the way to the centre. */
  readonly softness: number;
  /** How sure the finder is, 0 to 1. */
  readonly confidence: number;
  /** Luma of what lies around it, encoded, 0 to 1. */
  readonly tone?: number;
  /** The course of a line; its place is then the middle of it, and its radius half its width. */
  readonly path?: readonly (readonly [x: number, y: number])[];
  /** The border of an area, closed; its place is then the mean of its corners, its radius that of a disc as large. */
  readonly outline?: readonly (readonly [x: number, y: number])[];
  /** True if its outline holds all of it, to the pixel: its mend changes nothing beyond. */
  readonly isExact?: boolean;
}

/** A fault with its number on the picture. */
export interface NumberedFault extends Fault {
  readonly id: string;
  readonly number: number;
  /** For what an examination of the mended picture found: what was there before, or what a mend brought in. */
  readonly origin?: LeftoverOrigin;
  /** Its number on the dust chart of the camera, for what a chart knows of, and the shadow that it knows. */
  readonly charted?: number;
  readonly known?: KnownVeil;
}

/** Where a fault on a mended picture comes from. */
export const LEFTOVER_ORIGINS = ['left over', 'made by a mend'] as const;
export type LeftoverOrigin = (typeof LEFTOVER_ORIGINS)[number];
