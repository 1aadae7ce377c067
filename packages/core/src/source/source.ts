/** A shift from a target to its source in pixels: the source of place (x, y) is (x + dx, y + dy). */
export interface Shift {
  readonly dx: number;
  readonly dy: number;
}

/** How a copied piece is pulled at its four corners. */
export interface Warp {
  /** Sides of the piece around the target's middle, in pixels. */
  readonly width: number;
  readonly height: number;
  /** By how much each corner is pulled on the target: upper left, upper right, lower right, lower left. */
  readonly by: readonly [Shift, Shift, Shift, Shift];
}

/**
 * Where a mend takes its pixels from. Around the middle of the target the source may be mirrored left to right,
 * then turned, then enlarged, and at last pulled at its corners; the shift says where the middle itself is taken from.
 */
export interface Source extends Shift {
  readonly mirror?: boolean;
  /** Radians, clockwise on the screen, by which the copied piece is turned. */
  readonly turn?: number;
  /** How much larger the copied piece is than its original, above 0. */
  readonly scale?: number;
  readonly warp?: Warp;
}

/** True if the piece is moved and nothing else. */
export const isShift = ({ mirror, turn, scale, warp }: Source): boolean =>
  !mirror && (turn ?? 0) === 0 && (scale ?? 1) === 1 && !warp;

/** True if every pixel is copied as it is, from whole pixels away. */
export const isPlainShift = (source: Source): boolean =>
  Number.isInteger(source.dx) && Number.isInteger(source.dy) && isShift(source);
