import type { Polarity } from '../fault/fault.ts';
import type { FaultKind } from '../fault/kinds.ts';
import type { Fence } from '../fence/fence.ts';
import type { Place } from '../source/occupied.ts';
import type { StrokeTarget, Target } from '../target/target.ts';
import type { Reach } from '../target/targetField.ts';
import type { MendBase } from './mendBase.ts';
import type { MethodName } from './spotMend.ts';
import type { KnownVeil } from '../veil/veil.ts';

/** What a new mend is made for. */
export interface MendWish {
  readonly id: string;
  readonly target: Target;
  /** In pixels; the least that still covers a soft border. */
  readonly margin: number;
  /** Width of its soft border, in pixels; {@link EDGE} where it is missing. */
  readonly edge?: number;
  /** Darker or brighter than its surroundings; both are tried where it is missing. */
  readonly polarity?: Polarity;
  /** What the fault is, where that is known: a stain's tint is taken out. */
  readonly kind?: FaultKind;
  readonly fault?: string;
  readonly zone?: string;
  /** The veil that other frames of the same sensor show there. */
  readonly known?: KnownVeil;
}

/** How the method is chosen: by the program, or by the restorer. */
export type MethodChoice = 'auto' | MethodName;

/** What a new mend must keep clear of. */
export interface MendSurroundings {
  /** Open faults: no source may be taken from them. */
  readonly avoid: readonly Place[];
  /** Faults that are mended: sources may be taken from there, but nothing is closed from where something was hidden. */
  readonly mended?: readonly Place[];
  /** Sources of earlier mends. */
  readonly used: readonly Place[];
  /** Pixels of the whole picture no source may be taken from, row after row; all may where it is missing. */
  readonly forbidden?: Uint8Array;
  readonly fences?: readonly Fence[];
}

/** Width of the soft border of a new mend, in pixels: enough to hide the step, too little to show as a halo. */
export const EDGE = 1.5;

/** What the mend for a wish covers. */
export const reachOf = (wish: MendWish): Reach => ({
  ...{ target: wish.target, margin: wish.margin, edge: wish.edge ?? EDGE },
  ...(wish.zone === undefined ? {} : { zone: wish.zone }),
});

/** What every mend for a wish has in common, whatever its method. */
export const baseOf = (wish: MendWish): MendBase => ({
  id: wish.id,
  ...reachOf(wish),
  share: 1,
  on: true,
  ...(wish.fault === undefined ? {} : { fault: wish.fault }),
  ...(wish.zone === undefined ? {} : { zone: wish.zone }),
});

/** Lines and spots up to this width are bridged, in pixels: beyond it the sides tell too little of the middle. */
export const THIN = 7;

export const isArea = ({ shape }: Target): boolean => shape === 'outline' || shape === 'mask';

/** True if a line is wider than its two sides can tell. */
export const isWideLine = (target: Target): target is StrokeTarget =>
  target.shape === 'stroke' && target.width > THIN;
