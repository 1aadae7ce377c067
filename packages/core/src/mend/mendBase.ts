import type { Target } from '../target/target.ts';
import type { Reach } from '../target/targetField.ts';
import type { Because } from './auto/because.ts';

/** Why a mend's method was taken, and how much of the fault's own detail it could keep, where that was measured. */
export interface MendReason {
  readonly because: Because;
  /** 0 to 1. */
  readonly recoverability?: number;
}

/** A stroke that paints a mend in or out. */
export interface PaintStroke {
  readonly shape: Target;
  /** Width of its soft border, in pixels. */
  readonly edge: number;
  /** How much of what is missing it adds, or of what is there it takes away, 0 to 1. */
  readonly amount: number;
  readonly lays: 'in' | 'out';
}

/** What every mend has, whatever its method. */
export interface MendBase extends Reach {
  readonly id: string;
  /** How much of the fault it takes away, 0 to 1. */
  readonly share: number;
  /** A mend that is off stays in the recipe and changes nothing. */
  readonly on: boolean;
  /** Only pixels that it would make lighter, or only those it would make darker, are changed. */
  readonly only?: 'lighten' | 'darken';
  /** The zone it is bounded by, by id. */
  readonly zone?: string;
  /** The fault this mend answers, where there is one. */
  readonly fault?: string;
  /** Why this method was taken; missing where a mend was written by hand. It changes no pixel. */
  readonly why?: MendReason;
  /**
   * Strokes that paint the mend in and out inside its target, one after the other. Where the first paints in there is
   * nothing before it, where it paints out there is all. Missing: all of the target.
   */
  readonly paint?: readonly PaintStroke[];
  /** The mend of another picture that this one was carried over from. It changes no pixel. */
  readonly carried?: { readonly picture: string; readonly mend: string };
  /** What the restorer calls it. It changes no pixel. */
  readonly name?: string;
  /** A locked mend is not to be changed or taken away by the hand; it renders like any other. */
  readonly locked?: boolean;
}
