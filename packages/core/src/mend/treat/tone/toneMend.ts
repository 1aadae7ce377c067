import type { MendBase } from '../../mendBase.ts';

/** Lighter, darker, of more or less contrast or colour. */
export interface ToneMend extends MendBase {
  readonly method: 'tone';
  /** Stops in linear light, -4 to 4. */
  readonly exposure: number;
  /** The tones that the exposure acts on. */
  readonly range: 'all' | 'shadows' | 'midtones' | 'highlights';
  /** Local contrast of lightness, -1 (none left) to 2; 0 leaves it. */
  readonly contrast: number;
  /** The size of what local contrast acts on: standard deviation of its surroundings, in pixels. */
  readonly contrastSize: number;
  /** Turn of the hue in degrees. */
  readonly hue: number;
  /** Factor of the chroma, 0 (grey) to 3; 1 leaves it. */
  readonly saturation: number;
  /** Added to L*, -100 to 100. */
  readonly lightness: number;
}
