/** One place of the pen, in pixels of the picture. */
export interface PenPoint {
  readonly x: number;
  readonly y: number;
  /** 0 to 1. */
  readonly pressure: number;
}
