/** The mark with which a method or treatment is drawn, before a person sets another. */
export interface StartingMark {
  /** Pixels of the picture. */
  readonly radius: number;
  /** Width of the soft border, in pixels. */
  readonly edge: number;
  /** How much of the fault is taken away, 0 to 1. */
  readonly share: number;
}
