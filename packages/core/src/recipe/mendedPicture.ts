import { applyMend, finishPatch, mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { Canvas } from '../mend/canvas.ts';
import type { Fence } from '../fence/fence.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, isEmpty, rectHolds, rectsMeet, uniteRects } from '../raster/rect.ts';
import type { PictureShape } from '../raster/raster.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect } from '../raster/window.ts';
import { targetBounds } from '../target/targetBounds.ts';
import type { Recipe } from './recipe.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import { isTreatment } from '../mend/mend.ts';
import type { Patch } from '../raster/patch.ts';
import type { RebuildTask } from '../mend/rebuild/rebuildTask.ts';
import { treatmentFootprint, treatmentReach } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';
import type { LaidPatch } from './laidPatch.ts';
import type { LaidTreatment, TreatBy } from './laidTreatment.ts';
import { layTreatment } from './laidTreatment.ts';
import type { RebuildElsewhere, Underway } from './elsewhere.ts';
import { isSameWork } from './elsewhere.ts';
import { copyPatch, keepPatch } from './laidPatch.ts';
import type { PatchMemory } from './patchMemory.ts';
import { isWorthKeeping, rebuildWork } from './patchMemory.ts';
import { piecesOn } from './pieces.ts';

/** A picture with its mends on it, which redoes only what a change touches. */
export interface MendedPicture {
  /**
   * Takes over a new list of mends and fences. Kept are those that are the same and look at nothing that changed; all others
   * are worked out again, in their order.
   *
   * @param ready awaited with the rectangles a mend looks at, before it is worked out
   * @param changed called with each rectangle whose pixels changed, as soon as they have
   * @param elsewhere where rebuilds are worked out: nothing is waited for then. An answer that was brought is laid down
   *   by the next update.
   * @param memory what mends made before: one that is known is not worked out
   */
  update(
    recipe: Pick<Recipe, 'mends' | 'fences'>,
    ready: (reads: readonly Rect[]) => Promise<void>,
    changed: (rect: Rect) => void,
    elsewhere?: RebuildElsewhere,
    memory?: PatchMemory,
  ): Promise<void>;
  /** The pixels with all mends on them. */
  readonly pixels: Pixels;
  /** The same picture with the same mends, to be changed by itself; what was worked out is not worked out again. */
  fork(): MendedPicture;
  /** The mends that meet a rectangle, in their order. */
  laidOn(rect: Rect): Laid[];
  /** Whether all that treatments make of a rectangle is worked out: `pixels` of it then take no time. */
  isPrepared(rect: Rect): boolean;
  /**
   * Has all that treatments make of a rectangle worked out elsewhere, the lower ones first. What {@link needs} says must
   * be at hand. A change meanwhile is no harm: what it made stale is worked out again when it is asked for.
   */
  prepare(rect: Rect, treat: TreatBy): Promise<void>;
  /** The guards and zones that bound the mends. */
  fences(): readonly Fence[];
  /** What of the picture without mends must be at hand before a rectangle of `pixels` is asked for. */
  needs(rect: Rect): Rect;
}

/** A mend as it lies on the picture. */
export type Laid = LaidPatch | LaidTreatment;

export const isLaidTreatment = (laid: Laid): laid is LaidTreatment => 'piecesOn' in laid;

const isSame = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The areas of guards that were added, taken away or changed: mends that look there are done again. */
function changedGuards(before: readonly Fence[], after: readonly Fence[]): Rect[] {
  const areaOf = ({ area, edge }: Fence): Rect => targetBounds(area, edge + 1);
  // A zone concerns only the mends that name it.
  const differs = (fence: Fence, others: readonly Fence[]): boolean =>
    fence.kind === 'guard' && !others.some((other) => isSame(other, fence));
  return [
    ...before.filter((fence) => differs(fence, after)),
    ...after.filter((fence) => differs(fence, before)),
  ].map(areaOf);
}

/** Zones that changed: a mend bound to one may lie outside both its old and its new area. */
const changedZones = (before: readonly Fence[], after: readonly Fence[]): Set<string> =>
  new Set(
    [...before, ...after]
      .filter(({ kind }) => kind === 'zone')
      .map(({ id }) => id)
      .filter((id) => {
        const find = (fences: readonly Fence[]): Fence | undefined => fences.find((fence) => fence.id === id);
        return !isSame(find(before), find(after));
      }),
  );

/** Pixels with mends on them; what no mend meets is handed through without copying. */
function pixelsWith(base: Pixels, laidOn: (rect: Rect) => Laid[]): Pixels {
  return {
    shape: base.shape,
    window: (asked): Window => {
      const rect = intersectRects(asked, pictureRect(base.shape));
      const under = base.window(rect);
      const laid = laidOn(rect);
      if (laid.length === 0) return under;
      const raster = cloneRaster(under.raster);
      for (const one of laid) {
        if (!isLaidTreatment(one)) copyPatch(one, raster, rect.left, rect.top);
        else for (const piece of one.piecesOn(rect)) copyPatch(piece, raster, rect.left, rect.top);
      }
      return { ...under, raster };
    },
  };
}

const meeting = (laid: readonly Laid[], rect: Rect): Laid[] =>
  laid.filter((one) => rectsMeet(one.rect, rect));

/** What must be at hand of the picture without mends before a rectangle with these on it is asked for. */
const needsUnder = (laid: readonly Laid[], rect: Rect): Rect =>
  laid
    .filter(isLaidTreatment)
    .reduceRight((needed, treatment) => uniteRects(needed, treatment.needs(needed)), rect);

/**
 * Where a treatment looks different because places under it changed. Where a fence keeps something, what lies beside it
 * stands in for it in all of a piece.
 */
function seenFrom(
  mend: Treatment,
  changed: readonly Rect[],
  fences: readonly Fence[],
  picture: PictureShape,
): Rect[] {
  const footprint = treatmentFootprint(mend, picture);
  const seen = changed.map((rect) => intersectRects(growRect(rect, treatmentReach(mend)), footprint));
  const places = fences.length > 0 ? seen.flatMap(piecesOn) : seen;
  return places.map((rect) => intersectRects(rect, footprint)).filter((rect) => !isEmpty(rect));
}

/** What a mended picture starts from. */
interface Start {
  readonly laid: readonly Laid[];
  readonly fenced: readonly Fence[];
  /** Rebuilds that were worked out elsewhere, by the mend's id. */
  readonly made: ReadonlyMap<string, Underway>;
}

/** A patch that changes nothing of what a mend may change. */
function nothingOf(mend: SpotMend, picture: PictureShape): Patch {
  const rect = mendFootprint(mend, picture);
  return { rect, values: [], coverage: new Float32Array(rect.width * rect.height) };
}

/** What is made of a mend by now: of one that is worked out elsewhere nothing before its first answer. */
function patchOf(mend: SpotMend, made: Underway | null, canvas: Canvas): Patch {
  const { shape } = canvas.pixels;
  const invented = made?.invented ?? null;
  const isHere = invented !== null && rectHolds(mendFootprint(mend, shape), invented.rect);
  const patch = !made ? applyMend(mend, canvas) : isHere ? finishPatch(mend, invented, canvas) : null;
  return patch && !isEmpty(patch.rect) ? patch : nothingOf(mend, shape);
}

/** What is made of a mend here, or was made of it before. */
async function patchBy(
  memory: PatchMemory | undefined,
  mend: SpotMend,
  reads: readonly Rect[],
  canvas: Canvas,
): Promise<Patch> {
  if (!memory || !isWorthKeeping(mend, canvas.pixels.shape)) return patchOf(mend, null, canvas);
  const { pixels, fences } = canvas;
  const document = JSON.stringify(mend);
  const work = { document, fences, windows: reads.map((rect) => pixels.window(rect)) };
  const known = await memory.find(work);
  if (known) return known;
  const patch = patchOf(mend, null, canvas);
  memory.keep(work, patch);
  return patch;
}

/** @param base the picture without mends; asked only for what `ready` was awaited for */
export const createMendedPicture = (base: Pixels): MendedPicture =>
  mendedFrom(base, { laid: [], fenced: [], made: new Map() });

function mendedFrom(base: Pixels, start: Start): MendedPicture {
  let { laid, fenced } = start;
  const underway = new Map(start.made);

  /** Begins a rebuild elsewhere, or has it as it was made before; what it replaces ends. */
  async function begin(
    task: RebuildTask,
    elsewhere: RebuildElsewhere,
    memory: PatchMemory | undefined,
  ): Promise<Underway> {
    const { mend } = task;
    const before = underway.get(mend.id);
    before?.end();
    const known = await memory?.find(rebuildWork(task));
    if (known) {
      const made = { mend, invented: known, answers: 1, isDone: true, end: () => undefined };
      underway.set(mend.id, made);
      return made;
    }
    const end = elsewhere(task, ({ patch, halvings }) => {
      const now = underway.get(mend.id);
      if (now?.end !== end) return;
      underway.set(mend.id, { ...now, invented: patch, answers: now.answers + 1, isDone: halvings === 0 });
    });
    const begun = { mend, invented: before?.invented ?? null, answers: 0, isDone: false, end };
    underway.set(mend.id, begun);
    return begun;
  }

  async function update(
    { mends, fences = [] }: Pick<Recipe, 'mends' | 'fences'>,
    ready: (reads: readonly Rect[]) => Promise<void>,
    changed: (rect: Rect) => void,
    elsewhere?: RebuildElsewhere,
    memory?: PatchMemory,
  ): Promise<void> {
    const old = new Map(laid.map((patch, index) => [patch.mend.id, { patch, index }]));
    const done = new Set<string>();
    let reached = -1;
    const next: Laid[] = [];
    const dirty: Rect[] = [];
    // One that was moved off the picture lays down nothing more, as one that was switched off.
    const laying = mends.filter((mend) => mend.on && !isEmpty(mendFootprint(mend, base.shape)));
    const wanted = new Set(laying.map((mend) => mend.id));
    const soil = (rect: Rect): void => {
      dirty.push(rect);
    };
    for (const patch of laid) if (!wanted.has(patch.mend.id)) soil(patch.rect);
    laid = laid.filter((patch) => wanted.has(patch.mend.id));
    for (const [id, { end }] of underway) {
      if (wanted.has(id)) continue;
      end();
      underway.delete(id);
    }
    const removed = dirty.length;
    const refenced = changedGuards(fenced, fences);
    const rezoned = changedZones(fenced, fences);
    fenced = fences;
    const under = pixelsWith(base, (rect) => meeting(next, rect));
    const canvas: Canvas = { pixels: under, original: base, fences };
    for (const mend of laying) {
      const reads = mendReads(mend, base.shape);
      const stood = old.get(mend.id);
      const kept = stood?.patch;
      // One that now comes after a mend it used to come before sees other pixels than it did.
      const inOrder = stood !== undefined && stood.index > reached;
      reached = Math.max(reached, stood?.index ?? -1);
      done.add(mend.id);
      const isZoneSame = mend.zone === undefined || !rezoned.has(mend.zone);
      const isClean = (): boolean =>
        isZoneSame && ![...dirty, ...refenced].some((rect) => reads.some((read) => rectsMeet(rect, read)));
      if (isTreatment(mend)) {
        const below = [...next];
        const ground = { ...canvas, pixels: pixelsWith(base, (rect) => meeting(below, rect)) };
        const isKept = kept && isLaidTreatment(kept) && inOrder && isZoneSame && isSame(kept.mend, mend);
        const soiled = isKept ? seenFrom(mend, [...dirty, ...refenced], fences, base.shape) : [];
        const laidNow = isKept
          ? kept.over(ground, [...dirty, ...refenced])
          : layTreatment(mend, ground, base.shape);
        next.push(laidNow);
        laid = [...next, ...laid.filter((other) => !done.has(other.mend.id))];
        for (const rect of isKept ? soiled : [...(kept ? [kept.rect] : []), laidNow.rect]) {
          soil(rect);
          changed(rect);
        }
        continue;
      }
      const stands = kept && !isLaidTreatment(kept) && inOrder && isClean() ? kept : null;
      const isElsewhere = mend.method === 'rebuild' && elsewhere !== undefined;
      const known = isElsewhere ? underway.get(mend.id) : undefined;
      const isMade = known && stands && mend.method === 'rebuild' && isSameWork(known.mend, mend);
      if (
        stands &&
        isSame(stands.mend, mend) &&
        (!isElsewhere || (isMade && stands.answer === known.answers))
      ) {
        next.push(stands);
        continue;
      }
      await ready(reads.map((rect) => needsUnder(next, rect)));
      const made = !isElsewhere
        ? null
        : isMade
          ? known
          : await begin({ mend, fences, window: under.window(reads[0]) }, elsewhere, memory);
      const patch = made ? patchOf(mend, made, canvas) : await patchBy(memory, mend, reads, canvas);
      const laidNow = keepPatch(mend, patch, under.window(patch.rect));
      next.push(made ? { ...laidNow, answer: made.answers } : laidNow);
      if (kept) soil(kept.rect);
      soil(patch.rect);
      laid = [...next, ...laid.filter((other) => !done.has(other.mend.id))];
      if (kept) changed(kept.rect);
      changed(patch.rect);
    }
    laid = next;
    for (const rect of dirty.slice(0, removed)) changed(rect);
  }

  const laidOn = (rect: Rect): Laid[] => meeting(laid, rect);
  const needs = (rect: Rect): Rect => needsUnder(laid, rect);
  const fork = (): MendedPicture => {
    const made = [...underway].filter(([, { isDone }]) => isDone);
    return mendedFrom(base, { laid, fenced, made: new Map(made) });
  };
  const fences = (): readonly Fence[] => fenced;
  /** The treatments with the part that each is needed for by those above it, the lower ones first. */
  function treatmentsFor(rect: Rect): { treatment: LaidTreatment; part: Rect }[] {
    let part = rect;
    const wanted = laid
      .filter(isLaidTreatment)
      .reverse()
      .map((treatment) => {
        const own = { treatment, part };
        part = uniteRects(part, treatment.needs(part));
        return own;
      });
    return wanted.reverse();
  }
  const isPrepared = (rect: Rect): boolean =>
    treatmentsFor(rect).every(({ treatment, part }) => isEmpty(treatment.needs(part)));
  async function prepare(rect: Rect, treat: TreatBy): Promise<void> {
    for (const { treatment, part } of treatmentsFor(rect)) await treatment.prepare(part, treat);
  }
  return { update, laidOn, fences, needs, isPrepared, prepare, fork, pixels: pixelsWith(base, laidOn) };
}
