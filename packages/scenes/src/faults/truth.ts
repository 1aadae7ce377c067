import type { FaultKind, Polarity } from '@fennip/core/fault';

/** A fault as it was laid on. Pixels of the picture; the centre of the first pixel is (0.5, 0.5). */
export interface LaidFault {
  readonly kind: FaultKind;
  readonly polarity: Polarity;
  readonly x: number;
  readonly y: number;
  /** Radius at half the depth; of a line: half its width. */
  readonly r: number;
  /** Share of the light that is taken away, or covered by light of its own, at the centre: 0 to 1. */
  readonly depth: number;
  /** Of a shadow: half the width of its border over the radius, 0 to 1. */
  readonly softness?: number;
  /** The course of a line. */
  readonly path?: readonly (readonly [number, number])[];
}

/** Linear light, pixel after pixel, three values each. */
export interface Sheet {
  readonly light: Float32Array;
  readonly width: number;
  readonly height: number;
}
