import type { MendBase } from '../../mendBase.ts';

/** Takes small things out that stand out from the median around them, and gives back the grain. */
export interface SiftMend extends MendBase {
  readonly method: 'sift';
  /** Radius of the square whose median is taken, in pixels, 1 to 100: specks up to about its size are taken. */
  readonly radius: number;
  /** How far a pixel must stand out, in multiples of the noise at its brightness; 0 takes the median everywhere. */
  readonly threshold: number;
  readonly polarity: 'bright' | 'dark' | 'both';
  /** What is at least so long or so wide, in pixels, is left alone; 0 leaves nothing alone. */
  readonly detail: number;
  /** Standard deviation of the noise in 16 even bands of brightness, as shares of full scale, encoded. */
  readonly noise: readonly number[];
}
