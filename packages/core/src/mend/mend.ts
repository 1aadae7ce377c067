import type { Source } from '../source/source.ts';
import type { MendBase } from './mendBase.ts';
import type { StainVeil } from './recover/stain/stain.ts';
import type { Tint } from './recover/tint.ts';
import type { LineVeil } from './recover/line/lineVeil.ts';
import type { Guide } from './rebuild/guide.ts';
import type { PatchVariant } from './rebuild/withVariants.ts';
import type { MaskTarget, Target } from '../target/target.ts';
import type { Veil } from '../veil/veil.ts';
import type { Treatment } from './treat/treatment.ts';
import { isTreatmentName } from './treat/treatments.ts';

export type { MendBase, MendReason, PaintStroke } from './mendBase.ts';

/**
 * Undoes a shadow, a lit veil or a stain's tint in linear light and keeps the picture's own detail. Where too little
 * light came through, the middle is healed from the source; that of a line is closed from its sides.
 */
export interface RecoverMend extends MendBase {
  readonly method: 'recover';
  /**
   * A disc with a penumbra (dust, a lit particle), a line with shoulders (a scratch), a stain that dried along its
   * border, or a smooth tint where there is no border to tell it by.
   */
  readonly veil: Veil | LineVeil | Tint | StainVeil;
  readonly source: Source | null;
  /** Of a line: what other faults hid when it was made. It is not closed from there, and closed where they cross it. */
  readonly avoid?: MaskTarget;
}

/** Whether a mend takes a stain out, whichever way that was told. */
export const isStain = (mend: Mend): mend is RecoverMend =>
  mend.method === 'recover' && (mend.veil.kind === 'tint' || mend.veil.kind === 'stain');

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
  /**
   * How a crease lights the sheet beside it: natural logarithms of linear light by distance across, a pixel apart and an
   * odd number of them, the middle one on the course. Undone before the line is closed.
   */
  readonly relief?: readonly number[];
  /** What other faults hid when it was made: nothing is closed from there. */
  readonly avoid?: MaskTarget;
}

/** Fills what is gone from the rest of the picture, patch by patch, along guides for edges that must go on. */
export interface RebuildMend extends MendBase {
  readonly method: 'rebuild';
  /** A whole number from 0: tells one proposal from another. The same seed gives the same pixels. */
  readonly seed: number;
  readonly guides: readonly Guide[];
  /** What alone may be taken from; all that is allowed where it is missing. */
  readonly from?: Target;
  /** Other faults that were open when it was made: neither looked at nor taken from. */
  readonly avoid?: MaskTarget;
  /** How patches may be changed besides being taken as they are. */
  readonly variants?: readonly PatchVariant[];
}

/** A mend of one place. */
export type SpotMend = RecoverMend | HealMend | CloneMend | BridgeMend | RebuildMend;

export type MethodName = SpotMend['method'];

/** One live repair. */
export type Mend = SpotMend | Treatment;

/** Whether a mend is worked out piece by piece over an area. */
export const isTreatment = (mend: Mend): mend is Treatment => isTreatmentName(mend.method);

export const isSpotMend = (mend: Mend): mend is SpotMend => !isTreatment(mend);

/** A mend whose method takes from a source. */
export type SourcedMend = RecoverMend | HealMend | CloneMend;

export const isSourced = (mend: Mend): mend is SourcedMend =>
  mend.method === 'recover' || mend.method === 'heal' || mend.method === 'clone';

/** The source a mend takes from, if its method has one. */
export function sourceOf(mend: Mend): Source | null {
  return isSourced(mend) ? mend.source : null;
}
