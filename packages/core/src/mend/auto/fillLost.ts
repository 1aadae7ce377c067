import { EDGES_LOOK, edgesInto } from '../../examine/areas/edgesInto.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import type { SourceCandidate } from '../../source/findSources.ts';
import type { Shift, Source } from '../../source/source.ts';
import { fitEdge } from '../../source/fitEdge.ts';
import { lengthOfPath } from '../../target/lengthOfPath.ts';
import type { StrokeTarget } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { applyMend } from '../applyMend.ts';
import { canvasOf } from '../canvas.ts';
import type { BridgeMend } from '../bridge/bridgeMend.ts';
import type { HealMend } from '../heal/healMend.ts';
import type { MendBase } from '../mendBase.ts';
import type { SpotMend } from '../spotMend.ts';
import type { MendSurroundings, MendWish } from '../mendWish.ts';
import { baseOf, isArea, isWideLine } from '../mendWish.ts';
import type { Guide } from '../rebuild/guide.ts';
import { proposeGuides } from '../rebuild/proposeGuides.ts';
import type { Verdict } from '../verdict/judgeMend.ts';
import { judgeMend } from '../verdict/judgeMend.ts';
import type { Because } from './because.ts';
import { BRIDGE_REACH } from './bridgeReach.ts';
import { rebuildFor } from './rebuildFor.ts';
import { errorThere, lineBeside, placesAlong } from './trialBeside.ts';

/** A source moved so that edges which run into the target meet theirs. */
export const fittedSource = (base: MendBase, { dx, dy }: Shift, pixels: Pixels): Source =>
  fitEdge(base, { dx, dy }, pixels)?.source ?? { dx, dy };

/** How many sources are tried before the restorer is asked. */
const MOST_TRIED = 2;

/** A mend with its own judgement. */
interface Judged {
  readonly mend: SpotMend;
  readonly verdict: Verdict | null;
}

/** What a lost target was filled with. */
export interface Filled extends Judged {
  /** What decided for its method, where that was another thing than which passed its own judgement first. */
  readonly because?: Because;
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
): Filled {
  const rebuilt = rebuildFor(base, surroundings.avoid, pixels.shape);
  const guides = kind === 'loss' || kind === 'tear' ? guidesThrough(base, pixels) : [];
  if (guides.length > 0) {
    const led = judged({ ...rebuilt, guides }, surroundings, pixels);
    if (isGood(led)) return { ...led, because: 'edges go on' };
  }
  // A seam runs through one thing after another, as no source does; a bridge would reach beyond what may be changed.
  if (isExact(base)) return judged(rebuilt, surroundings, pixels);
  function* fills(): Generator<SpotMend> {
    yield* healsFrom(base, sources, pixels);
    yield rebuilt;
  }
  return firstGood(fills(), bridgeOf(base), surroundings, pixels);
}

/** True if a mend may change nothing beyond its target. */
const isExact = ({ margin, edge }: MendBase): boolean => margin === 0 && edge === 0;

/** A wide line is long from so many of its widths on. */
const LONG = 6;
/** One of more square pixels than this would keep the restorer waiting for its rebuild, 20 s and more. */
const MOST_REBUILT = 30_000;

/**
 * Fills a tear or another wide line. A long one runs through one thing after another, which no single source has side by
 * side as it does: it is rebuilt or bridged, whichever errs less over the same line moved a little to its side, where
 * what it hides is known. A short one is filled as a spot, as is one with no room beside it.
 */
function fillWideLine(
  base: MendBase,
  line: StrokeTarget,
  sources: readonly SourceCandidate[],
  surroundings: MendSurroundings,
  pixels: Pixels,
): Filled {
  const length = lengthOfPath(line.points);
  const isLong = length >= LONG * line.width && length * line.width <= MOST_REBUILT;
  const beside = isLong ? lineBeside(base, line, pixels.shape) : null;
  if (!beside) return fillSpot(base, sources, surroundings, pixels);
  const bridgeOver = (target: StrokeTarget): BridgeMend => ({ ...base, target, method: 'bridge' });
  const avoid = [...surroundings.avoid, ...placesAlong(line, base.margin + base.edge)];
  const trial = rebuildFor({ ...base, target: beside }, avoid, pixels.shape);
  const isBridged = errorThere(bridgeOver(beside), pixels) < errorThere(trial, pixels);
  const best = isBridged ? bridgeOver(line) : rebuildFor(base, surroundings.avoid, pixels.shape);
  return { ...judged(best, surroundings, pixels), because: 'trial beside it' };
}

/** Fills what is lost under a target, from the best sources or without one: what passes its own judgement first. */
export function fillLost(
  wish: MendWish,
  sources: readonly SourceCandidate[],
  surroundings: MendSurroundings,
  pixels: Pixels,
): Filled {
  const base = baseOf(wish);
  const { target } = base;
  if (isArea(target)) return fillArea(base, wish.kind, sources, surroundings, pixels);
  if (isWideLine(target)) return fillWideLine(base, target, sources, surroundings, pixels);
  return fillSpot(base, sources, surroundings, pixels);
}
