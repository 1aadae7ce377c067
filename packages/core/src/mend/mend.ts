import type { Source } from '../source/source.ts';
import type { Target } from '../target/target.ts';
import type { Because } from './auto/because.ts';
import type { Tint } from './recover/tint.ts';
import type { LineVeil } from './recover/line/lineVeil.ts';
import type { Veil } from './recover/veil.ts';

/** Why a mend's method was taken, and how much of the fault's own detail it could keep, where that was measured. */
export interface MendReason {
  readonly because: Because;
  /** 0 to 1. */
  readonly recoverability?: number;
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
  /** Only pixels that it would make lighter, or only those it would make darker, are changed. */
  readonly only?: 'lighten' | 'darken';
  /** The zone it is bounded by, by id. */
  readonly zone?: string;
  /** The fault this mend answers, where there is one. */
  readonly fault?: string;
  /** Why this method was taken; missing where a mend was written by hand. It changes no pixel. */
  readonly why?: MendReason;
  /** A locked mend is not to be changed or taken away by the hand; it renders like any other. */
  readonly locked?: boolean;
}

/**
 * Undoes a shadow, a lit veil or a stain's tint in linear light and keeps the picture's own detail. Where too little
 * light came through, the middle is healed from the source; that of a line is closed from its sides.
 */
export interface RecoverMend extends MendBase {
  readonly method: 'recover';
  /** A disc with a penumbra (dust, a lit particle), a line with shoulders (a scratch) or a smooth tint (a stain). */
  readonly veil: Veil | LineVeil | Tint;
  readonly source: Source | null;
}

/** Texture from a source, tone and colour from the surroundings. Without a source: the surroundings carried in. */
export interface HealMend extends MendBase {
  readonly method: 'heal';
  readonly source: Source | null;
}

/** A straight copy of the source. */
export interface CloneMend extends MendBase {
  readonly method: 'clone';
  readonly source: Source;
  /** The picture that is copied from: as mended so far, or without any mend. */
  readonly reads: 'mended' | 'original';
  /**
   * How a stroke takes from its source: moved along with the pen, or, `fixed`, the place under the stroke's first
   * point again and again.
   */
  readonly laying: 'along' | 'fixed';
  /** Whether the share adds up where a stroke crosses or dwells on itself. */
  readonly buildUp: boolean;
}

/** Closes a thin line from both of its sides, part by part where it crosses from one surface to another. */
export interface BridgeMend extends MendBase {
  readonly method: 'bridge';
}

/** One live repair. */
export type Mend = RecoverMend | HealMend | CloneMend | BridgeMend;

export type MethodName = Mend['method'];

/** The source a mend takes from, if its method has one. */
export function sourceOf(mend: Mend): Source | null {
  return mend.method === 'bridge' ? null : mend.source;
}
