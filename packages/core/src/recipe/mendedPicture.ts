import type { Fence } from '../fence/fence.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty, uniteRects } from '../raster/rect.ts';
import type { RebuildElsewhere, Underway } from './elsewhere.ts';
import type { Laid } from './laid.ts';
import { isLaidTreatment } from './laid.ts';
import type { LaidTreatment, TreatBy } from './laidTreatment.ts';
import type { PatchMemory } from './patchMemory.ts';
import { meeting, needsUnder, pixelsWith } from './pixelsWith.ts';
import { createRebuildsUnderway } from './rebuildsUnderway.ts';
import type { Recipe } from './recipe.ts';
import type { LaidState } from './updateLaid.ts';
import { updateLaid } from './updateLaid.ts';

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
  /** True if all that treatments make of a rectangle is worked out: `pixels` of it then take no time. */
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

/**
 * A picture with no mends on it yet, which redoes only what a change touches.
 *
 * @param base the picture without mends; asked only for what `ready` was awaited for
 */
export const createMendedPicture = (base: Pixels): MendedPicture =>
  mendedFrom(base, { laid: [], fences: [] }, new Map());

/** The treatments with the part that each is needed for by those above it, the lower ones first. */
function treatmentsFor(laid: readonly Laid[], rect: Rect): { treatment: LaidTreatment; part: Rect }[] {
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

/** @param made rebuilds that were worked out elsewhere, by the mend's id */
function mendedFrom(
  base: Pixels,
  start: Readonly<LaidState>,
  made: ReadonlyMap<string, Underway>,
): MendedPicture {
  const state: LaidState = { ...start };
  const underway = createRebuildsUnderway(made);
  const laidOn = (rect: Rect): Laid[] => meeting(state.laid, rect);
  return {
    update: (recipe, ready, changed, elsewhere, memory) =>
      updateLaid(state, base, recipe, { ready, changed, elsewhere, memory, underway }),
    pixels: pixelsWith(base, laidOn),
    laidOn,
    fork: () => mendedFrom(base, state, underway.finished()),
    isPrepared: (rect) =>
      treatmentsFor(state.laid, rect).every(({ treatment, part }) => isEmpty(treatment.needs(part))),
    async prepare(rect, treat) {
      for (const { treatment, part } of treatmentsFor(state.laid, rect)) await treatment.prepare(part, treat);
    },
    fences: () => state.fences,
    needs: (rect) => needsUnder(state.laid, rect),
  };
}
