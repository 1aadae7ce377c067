import { EDGES_LOOK } from '../examine/areas/edgesInto.ts';
import type { Fault } from '../fault/fault.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, uniteRects } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { SourceCandidate } from '../source/findSources.ts';
import { findSources, searchRect } from '../source/findSources.ts';
import type { Place } from '../source/occupied.ts';
import type { StrokeTarget, Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { mendReads } from './applyMend.ts';
import { BRIDGE_REACH } from './auto/bridgeReach.ts';
import { fillLost, fittedSource } from './auto/fillLost.ts';
import { findLine } from './auto/findLine.ts';
import type { VeilFinding } from './auto/findVeil.ts';
import { findVeil, squareAround, veilReach } from './auto/findVeil.ts';
import { BAND_LOOK, leavesBand } from './auto/leavesBand.ts';
import { EXTENT_LOOK } from './auto/lineExtent.ts';
import { occlusionMask } from './auto/occlusionMask.ts';
import { outlineSpot } from './auto/outlineSpot.ts';
import type { Reason } from './auto/reason.ts';
import { reasonAfter, reasonFor } from './auto/reasonFor.ts';
import { rebuildFor } from './auto/rebuildFor.ts';
import { trialDistance } from './auto/trialBeside.ts';
import { GAP_BAND } from './bridge/closeGap.ts';
import type { Mend } from './mend.ts';
import type { HealMend } from './heal/healMend.ts';
import type { MendBase } from './mendBase.ts';
import type { MethodName, SpotMend } from './spotMend.ts';
import type { RecoverMend } from './recover/recoverMend.ts';
import { sourceOf } from './mend.ts';
import { describeMethod } from './methods.ts';
import type { MendSurroundings, MendWish, MethodChoice } from './mendWish.ts';
import { EDGE, THIN, baseOf, isArea, isWideLine, reachOf } from './mendWish.ts';
import { rebuildReads } from './rebuild/rebuild.ts';
import { fitTint } from './recover/fitTint.ts';
import { fitStain } from './recover/stain/fitStain.ts';
import type { Verdict } from './verdict/judgeMend.ts';

/** A mend with the best source, and the others to choose from. */
export interface MendProposal {
  readonly mend: SpotMend;
  readonly sources: readonly SourceCandidate[];
  readonly reason: Reason;
  /** What the mend thinks of itself; null where it was not judged: a recover is judged while it is fitted. */
  readonly verdict: Verdict | null;
}

/** How far a heal reaches beyond a hard spot's own outline, in pixels. */
const SPOT_MARGIN = 0.5;
/** How far a mend should reach beyond a fault of this radius and softness (0 to 1), in pixels. */
export const marginFor = ({ r, softness }: Pick<Fault, 'r' | 'softness'>): number =>
  Math.min(12, 1 + r * (0.2 + 0.5 * softness));

/**
 * The rectangle {@link proposeMend} looks at.
 *
 * @returns whole pixels of the upright original, inside the picture
 */
export function proposalReads(wish: MendWish, picture: PictureShape): Rect {
  const search = searchRect(reachOf(wish), picture);
  if (isArea(wish.target)) {
    const wide = rebuildReads(rebuildFor(baseOf(wish), [], picture), picture);
    const edges = targetBounds(wish.target, wish.margin + EDGE + EDGES_LOOK);
    return [...wide, intersectRects(edges, pictureRect(picture))].reduce(uniteRects, search);
  }
  if (wish.target.shape === 'stroke') {
    // A line is mended for trial, over all that is seen of it, to be judged.
    const tried = targetBounds(wish.target, EXTENT_LOOK + GAP_BAND + BAND_LOOK);
    const rects = [tried, ...(isWideLine(wish.target) ? wideLineReads(wish, wish.target, picture) : [])];
    return intersectRects(rects.reduce(uniteRects, search), pictureRect(picture));
  }
  if (wish.target.shape !== 'disc') return search;
  return intersectRects(uniteRects(search, squareAround(wish.target)), pictureRect(picture));
}

/** What is looked at to rebuild a wide line, and the same line beside itself. */
const wideLineReads = (wish: MendWish, line: StrokeTarget, picture: PictureShape): Rect[] =>
  rebuildReads(rebuildFor(baseOf(wish), [], picture), picture).map((rect) =>
    growRect(rect, trialDistance(line, reachOf(wish)) + 1),
  );

/** A hard spot as it is mended: where it lies, and how wide a line would be that hides as much. */
interface SpotShape {
  readonly target: Target;
  readonly thickness: number;
}

/** Takes out a stain, and what lies over any area for which recover is asked for. */
function recoverStain(
  { kind, target, polarity }: MendWish,
  base: MendBase,
  pixels: Pixels,
  choice: MethodChoice,
): MendProposal | null {
  const isMeant = (choice === 'auto' && kind === 'stain') || (choice === 'recover' && isArea(target));
  if (!isMeant) return null;
  const stain = target.shape === 'outline' ? fitStain(target, polarity, pixels) : null;
  const veil = stain?.veil ?? fitTint(base, pixels);
  if (!veil) return null;
  const shape = stain ? { target: stain.target, margin: Math.max(base.margin, -stain.veil.depths[0]) } : {};
  return {
    mend: { ...base, ...shape, method: 'recover', veil, source: null },
    sources: [],
    reason: {
      method: 'recover',
      because: choice === 'auto' ? 'smooth tint' : 'asked for',
      recoverability: 1,
      evidence: null,
    },
    verdict: null,
  };
}

/** Recovers a line under a stroke, where there is one; a wide one only when that is asked for. */
function recoverStroke(
  { target }: MendWish,
  base: MendBase,
  { avoid }: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice,
): MendProposal | null {
  if (target.shape !== 'stroke') return null;
  const isMeant = (choice === 'auto' && target.width <= THIN) || choice === 'recover';
  const line = isMeant ? findLine(target, avoid, pixels) : null;
  if (!line) return null;
  const { veil, reach, recoverability: share, evidence } = line;
  const mend: RecoverMend = { ...base, ...reach, method: 'recover', veil, source: null };
  if (choice === 'auto' && leavesBand(mend, share, pixels)) return null;
  return {
    mend,
    sources: [],
    reason: {
      method: 'recover',
      because: choice === 'auto' ? 'light in the shoulders' : 'asked for',
      recoverability: share,
      evidence,
    },
    verdict: null,
  };
}

/**
 * Makes a mend for a target: its method, its source where one is needed, and why.
 *
 * Auto recovers a round spot where a veil explains it and enough light came through, bridges thin strokes, fills wide
 * ones by what errs less beside them, and heals the rest. Where no source fits a heal carries the surroundings alone in.
 *
 * @param surroundings places that no source may lie on, in pixels of the upright original
 * @param pixels encoded values of what {@link proposalReads} asks for, without mends
 */
export function proposeMend(
  wish: MendWish,
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice = 'auto',
): MendProposal {
  const proposal = chooseMend(wish, surroundings, pixels, choice);
  const { because, recoverability: share } = proposal.reason;
  const why = { because, ...(share === null ? {} : { recoverability: share }) };
  return { ...proposal, mend: { ...clearOf(proposal.mend, surroundings, pixels.shape), why } };
}

/** What other faults hide beside a line or a small spot is left out of the sides it is closed from. */
function clearOf(mend: SpotMend, { avoid, mended = [] }: MendSurroundings, picture: PictureShape): SpotMend {
  if (mend.method !== 'bridge' && !(mend.method === 'recover' && mend.veil.kind === 'line')) return mend;
  const [rect] = mendReads(mend, picture);
  const hidden = rect && occlusionMask(mend, [...avoid, ...mended], rect, picture.width);
  return hidden ? { ...mend, avoid: hidden } : mend;
}

function chooseMend(
  wish: MendWish,
  surroundings: MendSurroundings,
  pixels: Pixels,
  choice: MethodChoice,
): MendProposal {
  const base = baseOf(wish);
  const stain = recoverStain(wish, base, pixels, choice);
  if (stain) return stain;
  const line = recoverStroke(wish, base, surroundings, pixels, choice);
  if (line) return line;
  const veil = choice === 'auto' || choice === 'recover' ? findVeil(wish, surroundings, pixels) : null;
  const reason = reasonFor(wish, choice, veil);
  // A hard spot is mended in its own shape: every pixel that need not be invented tells more.
  const spot = choice === 'auto' && reason.method === 'heal' ? hardSpot(wish, pixels) : null;
  if (spot) return proposeForSpot(wish, spot, surroundings, pixels, reason);
  const isLost =
    reason.method === 'recover'
      ? veil?.hasLostPart === true
      : reason.method !== 'bridge' && reason.method !== 'rebuild';
  const sources = isLost ? findSources({ ...reachOf(wish), ...surroundings }, pixels) : [];
  const [best] = sources;
  if (choice === 'auto' && reason.method === 'heal') {
    const filled = fillLost(wish, sources, surroundings, pixels);
    const { mend, verdict } = filled;
    return { mend, verdict, sources, reason: reasonAfter(reason, filled) };
  }
  const source = best ? fittedSource(base, best, pixels) : null;
  return {
    mend: mendOf(base, reason.method, veil, source, surroundings, pixels),
    sources,
    reason,
    verdict: null,
  };
}

/** The shape of a hard spot; a small one whose outline cannot be distinguished from its ground counts whole, with its margin. */
function hardSpot({ target, margin }: MendWish, pixels: Pixels): SpotShape | null {
  if (target.shape !== 'disc') return null;
  const outline = outlineSpot(target, pixels);
  if (outline) return outline;
  const thickness = 2 * target.r;
  return thickness <= THIN ? { target: { ...target, r: target.r + margin }, thickness } : null;
}

/** Bridges a small hard spot, heals a larger one, both within its own outline. */
function proposeForSpot(
  wish: MendWish,
  { target, thickness }: SpotShape,
  surroundings: MendSurroundings,
  pixels: Pixels,
  reason: Reason,
): MendProposal {
  const exact = { ...wish, target, margin: SPOT_MARGIN };
  if (thickness <= THIN)
    return {
      mend: { ...baseOf(exact), ...BRIDGE_REACH, method: 'bridge' },
      sources: [],
      reason: { ...reason, method: 'bridge', because: 'small spot' },
      verdict: null,
    };
  const sources = findSources({ ...reachOf(exact), ...surroundings }, pixels);
  const filled = fillLost(exact, sources, surroundings, pixels);
  const { mend, verdict } = filled;
  return { mend, verdict, sources, reason: reasonAfter(reason, filled) };
}

function mendOf(
  base: MendBase,
  method: MethodName,
  found: VeilFinding | null,
  source: HealMend['source'],
  { avoid }: MendSurroundings,
  pixels: Pixels,
): SpotMend {
  const veil = found && { veil: found.veil, reach: veilReach(found.veil) };
  const made = describeMethod({ method }).make({ base, veil, source, avoid, pixels });
  // Only a found veil leads to a recover; a heal is what a recover without one would be.
  return made ?? { ...base, method: 'heal', source };
}

/**
 * The place a mend takes its source from; null for a mend without one.
 *
 * @returns its middle and radius, in pixels of the upright original
 */
export function sourcePlace(mend: Mend): Place | null {
  const source = sourceOf(mend);
  if (!source) return null;
  const { left, top, width, height } = targetBounds(mend.target, mend.margin);
  return {
    x: left + width / 2 + source.dx,
    y: top + height / 2 + source.dy,
    r: Math.min(width, height) / 2,
  };
}
