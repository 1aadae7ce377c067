import type { Point } from '../target/target.ts';
import type { Placement } from './fit/placement.ts';

/** A piece of a torn print with its place in the picture that is made of all of them. */
export interface AssembledPiece {
  /** Which of the scans it lies on. */
  readonly scan: number;
  /** Where its paper and its picture end, in pixels of its scan. */
  readonly paper: readonly Point[];
  readonly picture: readonly Point[];
  readonly holes: readonly (readonly Point[])[];
  /** From its scan into the joined picture; null where it fits nowhere. */
  readonly placement: Placement | null;
  /** What the encoded values of each colour channel are multiplied with, so that its tones go on in the others'; 1 where missing. */
  readonly gain?: readonly number[];
}

/** How sure it is that two pieces lie beside one another as they do. */
export interface Join {
  /** Numbers of the two pieces. */
  readonly pieces: readonly [number, number];
  /** 0 to 1. */
  readonly confidence: number;
  /** How much of their borders lies on one another, and how far apart there (root of the mean square), in pixels. */
  readonly length: number;
  readonly misfit: number;
}

/** A picture that is made of pieces: what it was made from, and how. */
export interface Assembly {
  /** Sides of the joined picture, in pixels. */
  readonly width: number;
  readonly height: number;
  readonly pieces: readonly AssembledPiece[];
  readonly joins: readonly Join[];
}
