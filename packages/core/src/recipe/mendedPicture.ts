import { applyMend, mendFootprint, mendReads } from '../mend/applyMend.ts';
import type { Mend } from '../mend/mend.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { intersectRects, isEmpty, rectsMeet } from '../raster/rect.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Window } from '../raster/window.ts';
import { pictureRect } from '../raster/window.ts';
import type { LaidPatch } from './laidPatch.ts';
import { copyPatch, keepPatch } from './laidPatch.ts';

/** A picture with its mends on it, which redoes only what a change touches. */
export interface MendedPicture {
  /**
   * Takes over a new list of mends. Kept are those that are the same and look at nothing that changed; all others
   * are worked out again, in their order.
   *
   * @param ready awaited with the rectangles a mend looks at, before it is worked out
   * @param changed called with each rectangle whose pixels changed, as soon as they have
   */
  update(
    mends: readonly Mend[],
    ready: (reads: readonly Rect[]) => Promise<void>,
    changed: (rect: Rect) => void,
  ): Promise<void>;
  /** The pixels with all mends on them. */
  readonly pixels: Pixels;
  /** The patches that meet a rectangle, in their order. */
  patchesOn(rect: Rect): LaidPatch[];
}

const isSame = (a: Mend, b: Mend): boolean => a === b || JSON.stringify(a) === JSON.stringify(b);

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

/** @param base the picture without mends; asked only for what `ready` was awaited for */
export function createMendedPicture(base: Pixels): MendedPicture {
  let laid: readonly LaidPatch[] = [];
  const meeting = (patches: readonly LaidPatch[], rect: Rect): LaidPatch[] =>
    patches.filter((patch) => rectsMeet(patch.rect, rect));

  async function update(
    mends: readonly Mend[],
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
    const under = pixelsWith(base, (rect) => meeting(next, rect));
    for (const mend of mends) {
      if (!mend.on || isEmpty(mendFootprint(mend, base.shape))) continue;
      const reads = mendReads(mend, base.shape);
      const stood = old.get(mend.id);
      const kept = stood?.patch;
      // One that now comes after a mend it used to come before sees other pixels than it did.
      const inOrder = stood !== undefined && stood.index > reached;
      reached = Math.max(reached, stood?.index ?? -1);
      done.add(mend.id);
      const isClean = (): boolean => !dirty.some((rect) => reads.some((read) => rectsMeet(rect, read)));
      if (kept && inOrder && isSame(kept.mend, mend) && isClean()) {
        next.push(kept);
        continue;
      }
      await ready(reads);
      const patch = applyMend(mend, under);
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
  return { update, patchesOn, pixels: pixelsWith(base, patchesOn) };
}
