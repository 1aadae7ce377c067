import type { Target } from '../target/target.ts';

/** A whole-pixel shift from a target to its source: the source of pixel (x, y) is (x + dx, y + dy). */
export interface Shift {
  readonly dx: number;
  readonly dy: number;
}

/** What every mend has, whatever its method. */
export interface MendBase {
  readonly id: string;
  /** The measured fault, in pixels of the upright picture; the centre of the first pixel is (0.5, 0.5). */
  readonly target: Target;
  /** How far the mend reaches beyond the target at full effect, in pixels. */
  readonly margin: number;
  /** Width of the soft border that follows the margin, in pixels; 0 is a hard border. */
  readonly edge: number;
  /** How much of the fault it takes away, 0 to 1. */
  readonly share: number;
  /** A mend that is off stays in the recipe and changes nothing. */
  readonly on: boolean;
  /** The fault this mend answers, where there is one. */
  readonly fault?: string;
}

/** Texture from a source, tone and colour from the surroundings. Without a source: the surroundings carried in. */
export interface HealMend extends MendBase {
  readonly method: 'heal';
  readonly source: Shift | null;
}

/** One live repair. */
export type Mend = HealMend;

export type MethodName = Mend['method'];
