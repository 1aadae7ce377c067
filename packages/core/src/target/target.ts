/** A point of the upright picture in pixels; the centre of the first pixel is (0.5, 0.5). */
export type Point = readonly [x: number, y: number];

/** A round spot. */
export interface DiscTarget {
  readonly shape: 'disc';
  readonly x: number;
  readonly y: number;
  /** Radius in pixels, above 0. */
  readonly r: number;
}

/** A line drawn with a round pen. */
export interface StrokeTarget {
  readonly shape: 'stroke';
  readonly points: readonly Point[];
  /** Full width in pixels, above 0. */
  readonly width: number;
  /** Pressure of the pen at each point, 0 to 1, by which the width is multiplied; 1 everywhere where it is missing. */
  readonly pressure?: readonly number[];
}

/** The inside of a closed polygon (even-odd). */
export interface OutlineTarget {
  readonly shape: 'outline';
  readonly points: readonly Point[];
}

/**
 * Any set of pixels inside a rectangle, as alternating run lengths in row order: the first run lies outside the
 * set and may be 0.
 */
export interface MaskTarget {
  readonly shape: 'mask';
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
  readonly runs: readonly number[];
}

/** What a mend is aimed at. */
export type Target = DiscTarget | StrokeTarget | OutlineTarget | MaskTarget;
