import type { FramingBase } from '../stepBase.ts';

/** Turned about the middle of the picture. */
export interface StraightenStep extends FramingBase {
  readonly method: 'straighten';
  /** Radians by which the picture is turned clockwise. */
  readonly angle: number;
}
