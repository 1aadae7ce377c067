import { applyMend, mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { Canvas } from '../mend/canvas.ts';
import type { Fence } from '../fence/fence.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty, rectsMeet } from '../raster/rect.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect } from '../raster/window.ts';
import { targetBounds } from '../target/targetBounds.ts';
import type { Recipe } from './recipe.ts';
import type { LaidPatch } from './laidPatch.ts';
import { copyPatch, keepPatch } from './laidPatch.ts';

/** A picture with its mends on it, which redoes only what a change touches. */
export interface MendedPicture {
  /**
   * Takes over a new list of mends and fences. Kept are those that are the same and look at nothing that changed; all others
   * are worked out again, in their order.
   *
   * @param ready awaited with the rectangles a mend looks at, before it is worked out
   * @param changed called with each rectangle whose pixels changed, as soon as they have
   */
  update(
    recipe: Pick<Recipe, 'mends' | 'fences'>,
    ready: (reads: readonly Rect[]) => Promise<void>,
    changed: (rect: Rect) => void,
  ): Promise<void>;
  /** The pixels with all mends on them. */
  readonly pixels: Pixels;
  /** The same picture with the same mends, to be changed by itself; what was worked out is not worked out again. */
  fork(): MendedPicture;
  /** The patches that meet a rectangle, in their order. */
  patchesOn(rect: Rect): LaidPatch[];
}

const isSame = (a: unknown, b: unknown): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

/** The areas of fences that were added, taken away or changed: mends that look there are done again. */
function changedFences(before: readonly Fence[], after: readonly Fence[]): Rect[] {
  const areaOf = ({ area, edge }: Fence): Rect => targetBounds(area, edge + 1);
  const differs = (fence: Fence, others: readonly Fence[]): boolean =>
    !others.some((other) => isSame(other, fence));
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

/** Pixels with patches on them; what no patch meets is handed through without copying. */
function pixelsWith(base: Pixels, patchesOn: (rect: Rect) => LaidPatch[]): Pixels {
  return {
    shape: base.shape,
    window: (asked): Window => {
      const rect = intersectRects(asked, pictureRect(base.shape));
      const under = base.window(rect);
      const patches = patchesOn(rect);
      if (patches.length === 0) return under;
      const raster = cloneRaster(under.raster);
      for (const patch of patches) copyPatch(patch, raster, rect.left, rect.top);
      return { ...under, raster };
    },
  };
}

/** What a mended picture starts from. */
interface Start {
  readonly laid: readonly LaidPatch[];
  readonly fenced: readonly Fence[];
}

/** @param base the picture without mends; asked only for what `ready` was awaited for */
export const createMendedPicture = (base: Pixels): MendedPicture =>
  mendedFrom(base, { laid: [], fenced: [] });

function mendedFrom(base: Pixels, start: Start): MendedPicture {
  let { laid, fenced } = start;
  const meeting = (patches: readonly LaidPatch[], rect: Rect): LaidPatch[] =>
    patches.filter((patch) => rectsMeet(patch.rect, rect));

  async function update(
    { mends, fences = [] }: Pick<Recipe, 'mends' | 'fences'>,
    ready: (reads: readonly Rect[]) => Promise<void>,
    changed: (rect: Rect) => void,
  ): Promise<void> {
    const old = new Map(laid.map((patch, index) => [patch.mend.id, { patch, index }]));
    const done = new Set<string>();
    let reached = -1;
    const next: LaidPatch[] = [];
    const dirty: Rect[] = [];
    const wanted = new Set(mends.filter((mend) => mend.on).map((mend) => mend.id));
    const soil = (rect: Rect): void => {
      dirty.push(rect);
    };
    for (const patch of laid) if (!wanted.has(patch.mend.id)) soil(patch.rect);
    laid = laid.filter((patch) => wanted.has(patch.mend.id));
    const removed = dirty.length;
    const refenced = changedFences(fenced, fences);
    const rezoned = changedZones(fenced, fences);
    fenced = fences;
    const under = pixelsWith(base, (rect) => meeting(next, rect));
    const canvas: Canvas = { pixels: under, original: base, fences };
    for (const mend of mends) {
      if (!mend.on || isEmpty(mendFootprint(mend, base.shape))) continue;
      const reads = mendReads(mend, base.shape);
      const stood = old.get(mend.id);
      const kept = stood?.patch;
      // One that now comes after a mend it used to come before sees other pixels than it did.
      const inOrder = stood !== undefined && stood.index > reached;
      reached = Math.max(reached, stood?.index ?? -1);
      done.add(mend.id);
      const isClean = (): boolean =>
        ![...dirty, ...refenced].some((rect) => reads.some((read) => rectsMeet(rect, read))) &&
        !(mend.zone !== undefined && rezoned.has(mend.zone));
      if (kept && inOrder && isSame(kept.mend, mend) && isClean()) {
        next.push(kept);
        continue;
      }
      await ready(reads);
      const patch = applyMend(mend, canvas);
      next.push(keepPatch(mend, patch, under.window(patch.rect)));
      if (kept) soil(kept.rect);
      soil(patch.rect);
      laid = [...next, ...laid.filter((other) => !done.has(other.mend.id))];
      if (kept) changed(kept.rect);
      changed(patch.rect);
    }
    laid = next;
    for (const rect of dirty.slice(0, removed)) changed(rect);
  }

  const patchesOn = (rect: Rect): LaidPatch[] => meeting(laid, rect);
  const fork = (): MendedPicture => mendedFrom(base, { laid, fenced });
  return { update, patchesOn, fork, pixels: pixelsWith(base, patchesOn) };
}
