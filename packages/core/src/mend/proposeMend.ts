import type { Fault } from '../examine/fault.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import type { SourceCandidate } from '../source/findSources.ts';
import { findSources, searchRect } from '../source/findSources.ts';
import type { Place } from '../source/occupied.ts';
import type { Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import type { HealMend } from './mend.ts';

/** What a new mend is made for. */
export interface MendWish {
  readonly id: string;
  readonly target: Target;
  /** In pixels; the least that still covers a soft border. */
  readonly margin: number;
  readonly fault?: string;
}

/** What a new mend must keep clear of. */
export interface MendSurroundings {
  /** Open faults: no source may be taken from them. */
  readonly avoid: readonly Place[];
  /** Sources of earlier mends. */
  readonly used: readonly Place[];
  /** Pixels of the whole picture no source may be taken from, row after row; all may where it is missing. */
  readonly forbidden?: Uint8Array;
}

/** A mend with the best source, and the others to choose from. */
export interface MendProposal {
  readonly mend: HealMend;
  readonly sources: readonly SourceCandidate[];
}

/** Width of the soft border of a new mend, in pixels: enough to hide the step, too little to show as a halo. */
const EDGE = 1.5;

/** How far a mend should reach beyond a fault of this radius and softness (0 to 1), in pixels. */
export const marginFor = ({ r, softness }: Pick<Fault, 'r' | 'softness'>): number =>
  Math.min(12, 1 + r * (0.2 + 0.5 * softness));

const reachOf = (wish: MendWish) => ({ target: wish.target, margin: wish.margin, edge: EDGE });

/** The rectangle {@link proposeMend} looks at. */
export const proposalReads = (wish: MendWish, picture: PictureShape): Rect =>
  searchRect(reachOf(wish), picture);

/** Makes a heal for a target, its source chosen. Where no source fits the surroundings alone are carried in. */
export function proposeMend(wish: MendWish, surroundings: MendSurroundings, pixels: Pixels): MendProposal {
  const sources = findSources({ ...reachOf(wish), ...surroundings }, pixels);
  const [best] = sources;
  const mend: HealMend = {
    id: wish.id,
    method: 'heal',
    ...reachOf(wish),
    share: 1,
    on: true,
    source: best ? { dx: best.dx, dy: best.dy } : null,
    ...(wish.fault === undefined ? {} : { fault: wish.fault }),
  };
  return { mend, sources };
}

/** The place a mend takes its source from; none for a mend without one. */
export function sourcePlace(mend: HealMend): Place | null {
  if (!mend.source) return null;
  const { left, top, width, height } = targetBounds(mend.target, mend.margin);
  return {
    x: left + width / 2 + mend.source.dx,
    y: top + height / 2 + mend.source.dy,
    r: Math.min(width, height) / 2,
  };
}
