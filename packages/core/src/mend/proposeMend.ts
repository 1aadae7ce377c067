import { EDGES_LOOK, edgesInto } from '../examine/areas/edgesInto.ts';
import type { Fault, FaultKind, Polarity } from '../examine/fault.ts';
import type { Fence } from '../fence/fence.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty, uniteRects } from '../raster/rect.ts';
import { lumaPlane } from '../raster/float.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect } from '../raster/window.ts';
import type { SourceCandidate } from '../source/findSources.ts';
import type { Shift, Source } from '../source/source.ts';
import { findSources, searchRect } from '../source/findSources.ts';
import { fitEdge } from '../source/fitEdge.ts';
import type { Place } from '../source/occupied.ts';
import { occupiedPixels } from '../source/occupied.ts';
import type { DiscTarget, StrokeTarget, Target } from '../target/target.ts';
import { targetBounds } from '../target/targetBounds.ts';
import { fieldRect } from '../target/targetField.ts';
import { RING } from './heal/heal.ts';
import { findLine } from './auto/findLine.ts';
import { bandLeft } from './auto/bandLeft.ts';
import { EXTENT_LOOK, lineExtent } from './auto/lineExtent.ts';
import { rebuildFor } from './auto/rebuildFor.ts';
import { outlineSpot } from './auto/outlineSpot.ts';
import type { Reason } from './auto/reason.ts';
import type {
  BridgeMend,
  CloneMend,
  HealMend,
  Mend,
  MendBase,
  MethodName,
  RecoverMend,
  SpotMend,
} from './mend.ts';
import { applyMend } from './applyMend.ts';
import { GAP_BAND } from './bridge/closeGap.ts';
import { canvasOf } from './canvas.ts';
import { sourceOf } from './mend.ts';
import { layPatch } from './patch.ts';
import type { FittedVeil } from './recover/fitVeil.ts';
import type { Guide } from './rebuild/guide.ts';
import { proposeGuides } from './rebuild/proposeGuides.ts';
import { rebuildReads } from './rebuild/rebuild.ts';
import { fitStain } from './recover/stain/fitStain.ts';
import { fitTint } from './recover/fitTint.ts';
import { fitReach, fitVeil, refineVeil } from './recover/fitVeil.ts';
import type { Leftover } from './recover/leftover.ts';
import { leftoverRoughness } from './recover/leftover.ts';
import { recoverability } from './recover/trust.ts';
import { undoSpot } from './recover/undoSpot.ts';
import type { KnownVeil, Veil } from './recover/veil.ts';
import { veilBounds, veilField } from './recover/veil.ts';
import type { Verdict } from './verdict/judgeMend.ts';
import { judgeMend } from './verdict/judgeMend.ts';

/** What a new mend is made for. */
export interface MendWish {
  readonly id: string;
  readonly target: Target;
  /** In pixels; the least that still covers a soft border. */
  readonly margin: number;
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
  /** Sources of earlier mends. */
  readonly used: readonly Place[];
  /** Pixels of the whole picture no source may be taken from, row after row; all may where it is missing. */
  readonly forbidden?: Uint8Array;
  readonly fences?: readonly Fence[];
}

/** A mend with the best source, and the others to choose from. */
export interface MendProposal {
  readonly mend: SpotMend;
  readonly sources: readonly SourceCandidate[];
  readonly reason: Reason;
  /** What the mend thinks of itself; null where it was not judged: a recover is judged while it is fitted. */
  readonly verdict: Verdict | null;
}

/** Width of the soft border of a new mend, in pixels: enough to hide the step, too little to show as a halo. */
const EDGE = 1.5;
/** A bridge keeps close: every pixel that it need not invent tells it more. */
const BRIDGE_REACH = { margin: 0.5, edge: 0.5 };
/** Strokes up to this width are bridged, in pixels: beyond it the sides tell too little of the middle. */
const THIN = 7;
/** How far a heal reaches beyond a hard spot's own outline, in pixels. */
const SPOT_MARGIN = 0.5;
/** A veil must explain the picture at least so much better than none, in log likelihood. */
const LEAST_EVIDENCE = 0;
/** Below this departure from its surroundings, in spreads of these, a spot is no more than its ground's own texture. */
const LEAST_DEPARTURE = 1;
/**
 * Undoing must not leave a place so many times rougher than its surroundings. Measured: true shadows stay below in 97
 * of 100, two thirds of ragged hard specks lie above.
 */
const MOST_LEFTOVER = 1.8;
/** Shadows of dust on a sensor are shallower than this; what is deeper may be a grain that lets nothing through. */
const DEEP = 0.5;
/** A shadow through an aperture has a penumbra. One cut sharper than this, in pixels and radii, lies in focus. */
const SHARP = 0.5;
const SHARP_SHARE = 0.12;
/** Undone texture fainter than this share of the surroundings' was never there. */
const LEAST_CORE = 0.3;
/** A fault less recoverable than this is healed as a whole: rims alone are not worth their seam. */
const LEAST_RECOVERABLE = 0.3;

/** How far a mend should reach beyond a fault of this radius and softness (0 to 1), in pixels. */
export const marginFor = ({ r, softness }: Pick<Fault, 'r' | 'softness'>): number =>
  Math.min(12, 1 + r * (0.2 + 0.5 * softness));

const reachOf = (wish: MendWish) => ({
  ...{ target: wish.target, margin: wish.margin, edge: EDGE },
  ...(wish.zone === undefined ? {} : { zone: wish.zone }),
});

const squareAround = ({ x, y, r }: DiscTarget): Rect => {
  const half = fitReach(r);
  return { left: Math.floor(x) - half, top: Math.floor(y) - half, width: 2 * half + 1, height: 2 * half + 1 };
};

const isArea = ({ shape }: Target): boolean => shape === 'outline' || shape === 'mask';

/** The rectangle {@link proposeMend} looks at. */
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
    return intersectRects(uniteRects(search, tried), pictureRect(picture));
  }
  if (wish.target.shape !== 'disc') return search;
  return intersectRects(uniteRects(search, squareAround(wish.target)), pictureRect(picture));
}

const baseOf = (wish: MendWish): MendBase => ({
  id: wish.id,
  ...reachOf(wish),
  share: 1,
  on: true,
  ...(wish.fault === undefined ? {} : { fault: wish.fault }),
  ...(wish.zone === undefined ? {} : { zone: wish.zone }),
});

/** A hard spot as it is mended: where it lies, and how wide a line would be that hides as much. */
interface SpotShape {
  readonly target: Target;
  readonly thickness: number;
}

/** A veil fitted to a wish, and how much it would bring back. */
interface VeilFinding extends FittedVeil {
  readonly recoverability: number;
  /** How rough undoing it leaves the place, against its surroundings. */
  readonly leftover: Leftover;
  /** How far the spot's middle departs from its ring, in spreads of the ring. */
  readonly departure: number;
  /** Whether some of it must be healed. */
  readonly hasLostPart: boolean;
}

/** How far the middle of a disc departs from the ring around it, in spreads of the ring; encoded luma. */
function departureOf({ x, y, r }: DiscTarget, { left, top, raster }: Window): number {
  const { data, width, height } = lumaPlane(raster);
  let [core, inside, ring, squares, around] = [0, 0, 0, 0, 0];
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const away = Math.hypot(left + column + 0.5 - x, top + row + 0.5 - y) / r;
      if (away < 0.7) {
        core += data[i];
        inside++;
      } else if (away > 1.5 && away < 2.2) {
        ring += data[i];
        squares += data[i] * data[i];
        around++;
      }
    }
  if (inside === 0 || around === 0) return 0;
  const mean = ring / around;
  const spread = Math.sqrt(Math.max(0, squares / around - mean * mean)) + 1 / 255;
  return Math.abs(core / inside - mean) / spread;
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

/**
 * A line that still departs from its surroundings as a band, in spreads of theirs, is closed as a whole where that leaves
 * less than a share of it. From `plain` on a band is seen on any ground. From `seen` on it may be the ground itself that
 * departs there: a line that lets more through than `plenty` is not given up then. All by trial: the first on the scans
 * of a print, the others on scratches and hairs over six scenes, where they choose what errs less to within 0.4 dB.
 */
const BAND = { plain: 2, plainShare: 0.5, seen: 0.7, seenShare: 0.35, plenty: 0.3 };
/** How far beyond its own reach a mended line is looked at, in pixels. */
const BAND_LOOK = 6;

/** How much of a line still shows as a band once it is mended. */
function bandAfter(mend: SpotMend, target: StrokeTarget, reach: number, pixels: Pixels): number {
  const rect = intersectRects(targetBounds(target, reach + BAND_LOOK), pictureRect(pixels.shape));
  if (isEmpty(rect)) return 0;
  const window = pixels.window(rect);
  const raster = cloneRaster(window.raster);
  layPatch(applyMend(mend, canvasOf(pixels)), { ...window, raster });
  return bandLeft(target, reach, { ...window, raster });
}

/**
 * Whether a line that was undone by a hair too little or too much still shows, and would not if it were closed whole.
 *
 * @param share how much of it can be recovered, 0 to 1
 */
function leavesBand(mend: RecoverMend, share: number, pixels: Pixels): boolean {
  const { target } = mend;
  if (target.shape !== 'stroke') return false;
  const closed: BridgeMend = { ...mend, ...bridgeReach(mend, pixels), method: 'bridge' };
  const reach = target.width / 2 + Math.max(mend.margin + mend.edge, closed.margin + closed.edge);
  const left = bandAfter(mend, target, reach, pixels);
  if (left <= BAND.seen || (left <= BAND.plain && share >= BAND.plenty)) return false;
  const most = left > BAND.plain ? BAND.plainShare : BAND.seenShare;
  return bandAfter(closed, target, reach, pixels) < most * left;
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

/** Fits a veil to a round target; null where the target is not round or lies outside the picture. */
function findVeil(wish: MendWish, { avoid }: MendSurroundings, pixels: Pixels): VeilFinding | null {
  const { target, polarity } = wish;
  if (target.shape !== 'disc') return null;
  const rect = intersectRects(squareAround(target), pictureRect(pixels.shape));
  if (rect.width < 3 || rect.height < 3) return null;
  const window = pixels.window(rect);
  const others = avoid.filter(({ x, y, r }) => Math.hypot(x - target.x, y - target.y) > 0.5 * (r + target.r));
  const unknown = occupiedPixels(rect, { avoid: others }, pixels.shape.width);
  const polarities: readonly Polarity[] = polarity ? [polarity] : ['dark', 'bright'];
  const { known } = wish;
  const fits = known
    ? [refineVeil(window, known.veil, known.depthError, unknown)]
    : polarities.map((which) => fitVeil(window, { ...target, polarity: which }, unknown));
  const best = fits.reduce((a, b) => (b.evidence > a.evidence ? b : a));
  const own = fieldRect(veilReach(best.veil), pixels.shape, RING);
  if (isEmpty(own)) return null;
  const amount = veilField(best.veil, own);
  const here = pixels.window(own).raster;
  const { trust, values } = undoSpot(best.veil, amount, here, pixels.shape);
  return {
    ...best,
    departure: departureOf(target, window),
    leftover: leftoverRoughness(values, amount, here),
    recoverability: recoverability(amount, trust),
    hasLostPart: trust.some((share) => share < 1),
  };
}

/** The target of a recover: the veil itself, with all of its penumbra inside the margin. */
function veilReach(veil: Veil): Pick<MendBase, 'target' | 'margin' | 'edge'> {
  const { width } = veilBounds(veil);
  return {
    target: { shape: 'disc', x: veil.x, y: veil.y, r: veil.r },
    margin: Math.max(0, width / 2 - veil.r),
    edge: 1,
  };
}

/**
 * Makes a mend for a target: its method, its source where one is needed, and why.
 *
 * Auto recovers a round spot where a veil explains it and enough light came through, bridges thin strokes, and heals
 * the rest. Where no source fits a heal carries the surroundings alone in.
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
  return { ...proposal, mend: { ...proposal.mend, why } };
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
    const filled = isArea(base.target)
      ? fillArea(base, wish.kind, sources, surroundings, pixels)
      : fillSpot(base, sources, surroundings, pixels);
    return { ...filled, sources, reason: reasonAfter(reason, filled) };
  }
  const source = best ? fittedSource(base, best, pixels) : null;
  return {
    mend: mendOf(base, reason.method, veil, source, surroundings, pixels),
    sources,
    reason,
    verdict: null,
  };
}

/** The shape of a hard spot; a small one whose outline cannot be told from its ground counts whole, with its margin. */
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
  const best = fillSpot(baseOf(exact), sources, surroundings, pixels);
  return { ...best, sources, reason: reasonAfter(reason, best) };
}

/** A source moved so that edges which run into the target meet theirs. */
const fittedSource = (base: MendBase, { dx, dy }: Shift, pixels: Pixels): Source =>
  fitEdge(base, { dx, dy }, pixels)?.source ?? { dx, dy };

/** How many sources are tried before the restorer is asked. */
const MOST_TRIED = 2;

/** A mend with its own judgement. */
interface Judged {
  readonly mend: SpotMend;
  readonly verdict: Verdict | null;
}

/** The edges that run into an area, each led to the one that continues it. */
function guidesThrough({ target, margin, edge }: MendBase, pixels: Pixels): Guide[] {
  if (target.shape !== 'outline') return [];
  const clear = margin + edge;
  const rect = intersectRects(targetBounds(target, clear + EDGES_LOOK), pictureRect(pixels.shape));
  return isEmpty(rect) ? [] : proposeGuides(edgesInto(target.points, pixels.window(rect), clear));
}

const isGood = ({ verdict }: Judged): boolean => verdict?.verdict === 'good';

const judged = (mend: SpotMend, { fences = [] }: MendSurroundings, pixels: Pixels): Judged => ({
  mend,
  verdict: judgeMend(applyMend(mend, canvasOf(pixels, fences)), pixels),
});

/** The first that passes its own judgement, the last among them; the very first where none does. */
function firstGood(
  mends: Iterable<SpotMend>,
  last: SpotMend,
  surroundings: MendSurroundings,
  pixels: Pixels,
): Judged {
  let first: Judged | null = null;
  for (const mend of mends) {
    const tried = judged(mend, surroundings, pixels);
    if (isGood(tried)) return tried;
    first ??= tried;
  }
  const tried = judged(last, surroundings, pixels);
  return isGood(tried) ? tried : (first ?? tried);
}

/** Heals from the best sources, each fitted edge to edge. */
function* healsFrom(
  base: MendBase,
  sources: readonly SourceCandidate[],
  pixels: Pixels,
): Generator<HealMend> {
  for (const source of sources.slice(0, MOST_TRIED))
    yield { ...base, method: 'heal', source: fittedSource(base, source, pixels) };
}

const bridgeOf = (base: MendBase): BridgeMend => ({ ...base, ...BRIDGE_REACH, method: 'bridge' });

/** Fills a spot or a wide stroke from the best sources, or bridges it; with its surroundings alone where neither will do. */
function fillSpot(
  base: MendBase,
  sources: readonly SourceCandidate[],
  surroundings: MendSurroundings,
  pixels: Pixels,
): Judged {
  const best = firstGood(healsFrom(base, sources, pixels), bridgeOf(base), surroundings, pixels);
  if (isGood(best) || sources.length > 0) return best;
  return judged({ ...base, method: 'heal', source: null }, surroundings, pixels);
}

/**
 * Fills an area: a loss that edges run into by a rebuild with these led through it, which no single source is likely to
 * do; else from the best sources; by a rebuild, because no single place looks like all of a larger piece; by a bridge.
 */
function fillArea(
  base: MendBase,
  kind: FaultKind | undefined,
  sources: readonly SourceCandidate[],
  surroundings: MendSurroundings,
  pixels: Pixels,
): Judged {
  const rebuilt = rebuildFor(base, surroundings.avoid, pixels.shape);
  const guides = kind === 'loss' || kind === 'tear' ? guidesThrough(base, pixels) : [];
  if (guides.length > 0) {
    const led = judged({ ...rebuilt, guides }, surroundings, pixels);
    if (isGood(led)) return led;
  }
  function* fills(): Generator<SpotMend> {
    yield* healsFrom(base, sources, pixels);
    yield rebuilt;
  }
  return firstGood(fills(), bridgeOf(base), surroundings, pixels);
}

/** The reason, with the method that was taken in the end. */
const reasonAfter = (reason: Reason, { mend }: Judged): Reason =>
  mend.method === reason.method
    ? reason
    : {
        ...reason,
        method: mend.method,
        because: mend.method === 'rebuild' && mend.guides.length > 0 ? 'edges go on' : 'no source fits',
      };

/** How far a bridge reaches: over all that is seen of a line. */
function bridgeReach({ target }: MendBase, pixels: Pixels): Pick<MendBase, 'margin' | 'edge'> {
  if (target.shape !== 'stroke') return BRIDGE_REACH;
  const rect = intersectRects(targetBounds(target, EXTENT_LOOK), pictureRect(pixels.shape));
  const extent = isEmpty(rect) ? null : lineExtent(target, pixels.window(rect));
  if (extent === null) return BRIDGE_REACH;
  return { ...BRIDGE_REACH, margin: Math.max(BRIDGE_REACH.margin, extent - target.width / 2) };
}

function mendOf(
  base: MendBase,
  method: MethodName,
  found: VeilFinding | null,
  source: HealMend['source'],
  { avoid }: MendSurroundings,
  pixels: Pixels,
): SpotMend {
  switch (method) {
    case 'recover':
      // Only a found veil leads here; a heal is what a recover without one would be.
      return found
        ? ({ ...base, ...veilReach(found.veil), method, veil: found.veil, source } satisfies RecoverMend)
        : { ...base, method: 'heal', source };
    case 'heal':
      return { ...base, method, source } satisfies HealMend;
    case 'clone':
      return {
        ...base,
        method,
        source: source ?? { dx: 0, dy: 0 },
        reads: 'mended',
        laying: 'along',
        buildUp: false,
      } satisfies CloneMend;
    case 'bridge':
      return { ...base, ...bridgeReach(base, pixels), method } satisfies BridgeMend;
    case 'rebuild':
      return rebuildFor(base, avoid, pixels.shape);
  }
}

/** A deep shadow that is cut sharp, or flat where the ground has texture: nothing of the picture shows through. */
function isOpaque({ veil, leftover }: VeilFinding): boolean {
  if (veil.light !== null || veil.depth < DEEP) return false;
  const isSharp = veil.softness * veil.r < SHARP && veil.softness < SHARP_SHARE;
  return isSharp || leftover.core < LEAST_CORE;
}

function reasonFor({ target }: MendWish, choice: MethodChoice, veil: VeilFinding | null): Reason {
  const measured = {
    recoverability: veil?.recoverability ?? null,
    evidence: veil?.evidence ?? null,
  };
  if (choice === 'recover' && !veil) return { method: 'heal', because: 'no disc', ...measured };
  if (choice !== 'auto') return { method: choice, because: 'asked for', ...measured };
  if (target.shape === 'stroke' && target.width <= THIN)
    return { method: 'bridge', because: 'thin line', ...measured };
  if (!veil) return { method: 'heal', because: 'no disc', ...measured };
  if (veil.evidence < LEAST_EVIDENCE && veil.departure > LEAST_DEPARTURE)
    return { method: 'heal', because: 'no veil', ...measured };
  if (veil.leftover.roughness > MOST_LEFTOVER)
    return { method: 'heal', because: 'would leave a rim', ...measured };
  if (veil.recoverability < LEAST_RECOVERABLE || isOpaque(veil))
    return { method: 'heal', because: 'too little light', ...measured };
  return { method: 'recover', because: 'light comes through', ...measured };
}

/** The place a mend takes its source from; null for a mend without one. */
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
