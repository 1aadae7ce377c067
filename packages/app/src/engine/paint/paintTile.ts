import type { Fence } from '@fennip/core/fence';
import type { PictureShape, Raster, Rect } from '@fennip/core/raster';
import type { LaidPatch, LaidTreatment, LevelChange, MendedPicture, TreatBy } from '@fennip/core/recipe';
import { scaleTarget, scaleTreatment, treatmentReach } from '@fennip/core/mend';
import {
  cloneRaster,
  fullScale,
  growRect,
  intersectRects,
  isEmpty,
  pyramidLevels,
  uniteRects,
} from '@fennip/core/raster';
import { changeOnLevels, copyPatch, isLaidTreatment } from '@fennip/core/recipe';

/** What each mend changes on the smaller levels, worked out when first asked for. */
const changes = new WeakMap<LaidPatch, LevelChange[]>();

function changeOn(patch: LaidPatch, level: number, picture: PictureShape): LevelChange {
  let levels = changes.get(patch);
  if (!levels) {
    levels = changeOnLevels(patch, picture, pyramidLevels(picture.width, picture.height).length);
    changes.set(patch, levels);
  }
  return levels[level];
}

/** Adds differences to a tile whose first pixel is (left, top) of its level. */
function addChanges(tile: Raster, left: number, top: number, changesHere: readonly LevelChange[]): void {
  const most = fullScale(tile.depth);
  const here: Rect = { left, top, width: tile.width, height: tile.height };
  const meets = changesHere.flatMap(({ rect, difference }) => {
    const meet = intersectRects(rect, here);
    return isEmpty(meet) ? [] : [{ rect, difference, meet }];
  });
  if (meets.length === 0) return;
  const all = meets.map(({ meet }) => meet).reduce(uniteRects);
  const sum = new Float32Array(all.width * all.height);
  for (let c = 0; c < meets[0].difference.length; c++) {
    // Sums are rounded once, at the end: a thousand small changes must not each lose half a step.
    sum.fill(0);
    for (const { rect, difference, meet } of meets)
      for (let y = meet.top; y < meet.top + meet.height; y++) {
        const from = (y - rect.top) * rect.width - rect.left;
        const onto = (y - all.top) * all.width - all.left;
        for (let x = meet.left; x < meet.left + meet.width; x++) sum[onto + x] += difference[c][from + x];
      }
    const plane = tile.planes[c];
    for (let y = 0; y < all.height; y++) {
      const row = (all.top + y - top) * tile.stride + all.left - left;
      for (let x = 0; x < all.width; x++) {
        const value = plane[row + x] + sum[y * all.width + x];
        plane[row + x] = Math.max(0, Math.min(most, Math.round(value)));
      }
    }
  }
}

/** Where a part of a level lies: its first pixel. */
export interface LevelPlace {
  readonly level: number;
  readonly left: number;
  readonly top: number;
}

const unitOf = ({ level }: LevelPlace): number => 2 ** level;

/** The rectangle of the full-size picture that a part of a level shows. */
const fullRect = (part: { width: number; height: number }, place: LevelPlace): Rect => ({
  left: place.left * unitOf(place),
  top: place.top * unitOf(place),
  width: part.width * unitOf(place),
  height: part.height * unitOf(place),
});

/**
 * How far around a part of a level must be known for the treatments that are carried out on it, in pixels of that level.
 *
 * @param isAsSeen see {@link Workshop}
 */
export function reachOnLevel(rect: Rect, level: number, mended: MendedPicture, isAsSeen: boolean): number {
  if (level === 0 && !isAsSeen) return 0;
  const full = fullRect(rect, { level, left: rect.left, top: rect.top });
  return mended
    .laidOn(full)
    .filter(isLaidTreatment)
    .reduce((sum, { mend }) => sum + treatmentReach(scaleTreatment(mend, 2 ** level)), 0);
}

/** Fences as they lie on a smaller level, worked out once for each. */
const scaledFences = new WeakMap<Fence, Map<number, Fence>>();

/** A fence as it lies on a level that is so many times smaller. */
export function fenceOn(fence: Fence, times: number): Fence {
  const levels = scaledFences.get(fence) ?? new Map<number, Fence>();
  scaledFences.set(fence, levels);
  const known = levels.get(times);
  if (known) return known;
  const scaled = { ...fence, area: scaleTarget(fence.area, times), edge: fence.edge / times };
  levels.set(times, scaled);
  return scaled;
}

/** Carries a treatment out on a part of a level, in place: on a smaller one near enough to be judged by. */
async function treatPart(
  part: Raster,
  place: LevelPlace,
  laid: LaidTreatment,
  mended: MendedPicture,
  treat: TreatBy,
): Promise<void> {
  const times = unitOf(place);
  const { shape } = mended.pixels;
  const { width, height } = pyramidLevels(shape.width, shape.height)[place.level];
  const treatment = scaleTreatment(laid.mend, times);
  const picture = { ...shape, width, height };
  const here = { left: place.left, top: place.top, width: part.width, height: part.height };
  const inner = growRect(here, -treatmentReach(treatment));
  // At the picture's own border there is no more to be known.
  const left = here.left === 0 ? 0 : inner.left;
  const top = here.top === 0 ? 0 : inner.top;
  const right = here.left + here.width === width ? width : inner.left + inner.width;
  const bottom = here.top + here.height === height ? height : inner.top + inner.height;
  const fences = mended.fences().map((fence) => fenceOn(fence, times));
  const within = { left, top, width: right - left, height: bottom - top };
  if (isEmpty(within)) return;
  const window = { left: here.left, top: here.top, raster: part, picture };
  const treated = await treat({ mend: treatment, fences, window, within });
  if (treated) copyPatch(treated, part, here.left, here.top);
}

/** What painting needs of others. */
export interface Workshop {
  /** Waits for parts of the full-size picture. */
  readonly ready: (rects: readonly Rect[]) => Promise<void>;
  readonly treat: TreatBy;
  /**
   * Treatments of the full-size level are worked out on just what is seen, and not kept: sooner there than in pieces, of
   * which most reach far beyond it.
   */
  readonly isAsSeen: boolean;
}

/**
 * A part of a level with the mends on it. On the full-size level the very pixels that will be delivered (as seen but for
 * what is filled in beside a fence); on a smaller one treatments are carried out at its own scale.
 *
 * @param part with {@link reachOnLevel} around what is wanted of it
 */
export async function mendPart(
  part: Raster,
  place: LevelPlace,
  mended: MendedPicture,
  { ready, treat, isAsSeen }: Workshop,
): Promise<Raster> {
  const full = fullRect(part, place);
  const inPieces = place.level === 0 && !isAsSeen;
  // What changes while a treatment is worked out elsewhere makes it stale.
  while (inPieces && !mended.isPrepared(full)) {
    await ready([mended.needs(full)]);
    await mended.prepare(full, treat);
  }
  const laid = mended.laidOn(full);
  if (laid.length === 0) return part;
  const painted = cloneRaster(part);
  const { level, left, top } = place;
  let patches: LaidPatch[] = [];
  const flush = (): void => {
    if (patches.length === 0) return;
    if (level === 0) for (const patch of patches) copyPatch(patch, painted, left, top);
    else
      addChanges(
        painted,
        left,
        top,
        patches.map((patch) => changeOn(patch, level, mended.pixels.shape)),
      );
    patches = [];
  };
  for (const one of laid) {
    if (!isLaidTreatment(one)) {
      patches.push(one);
      continue;
    }
    flush();
    if (!inPieces && !(level === 0 && isEmpty(one.needs(full))))
      await treatPart(painted, place, one, mended, treat);
    else for (const piece of one.piecesOn(full)) copyPatch(piece, painted, left, top);
  }
  flush();
  return painted;
}
