import type { MendBase } from '../../mendBase.ts';

/** Blurs, evenly or along one direction. */
export interface SoftenMend extends MendBase {
  readonly method: 'soften';
  /** Standard deviation of the Gaussian, in pixels. */
  readonly sigma: number;
  /** Direction in radians, clockwise from the right, as the picture is seen; null softens evenly. */
  readonly along: number | null;
}
