import type { Raster } from '../../raster/raster.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { trustOfSpot } from './trust.ts';
import { undoVeil } from './undoVeil.ts';
import type { Veil } from '../../veil/veil.ts';

/** How far a fitted `a` may be off: a part that is always there, and a part of `a` itself. */
const DEPTH_ERROR = { always: 0.006, share: 0.03 };

/** A veil taken off. */
export interface Undoing {
  /** Recovered encoded values in code values, not rounded, one array for each colour channel. */
  readonly values: readonly Float32Array[];
  /** How much of each pixel is to be kept, 0 to 1. */
  readonly trust: Float32Array;
}

/** Undoes a disc on a raster. @param amount its `a` for each pixel, row after row */
export function undoSpot(veil: Veil, amount: Float32Array, here: Raster, picture: PictureShape): Undoing {
  const doubt = amount.map((a) => DEPTH_ERROR.always + DEPTH_ERROR.share * a);
  const { values, error } = undoVeil(veil.light, amount, doubt, here, picture);
  return { values, trust: trustOfSpot(error, amount, here) };
}
