import type { MendBase } from '../../mendBase.ts';

/** The picture against itself, moved: the lighter or the darker of the two. */
export interface ShiftMend extends MendBase {
  readonly method: 'shift';
  /** Whole pixels. */
  readonly dx: number;
  readonly dy: number;
  readonly keeps: 'lighter' | 'darker';
}
