import type { FramingBase } from '../stepBase.ts';

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
