import type { LaidPatch, LevelChange, MendedPicture, PictureShape, Raster, Rect } from '@fennip/core';
import {
  changeOnLevels,
  cloneRaster,
  copyPatch,
  fullScale,
  intersectRects,
  isEmpty,
  pyramidLevels,
} from '@fennip/core';

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
  const [colours] = changesHere.map(({ difference }) => difference.length);
  for (let c = 0; c < (colours ?? 0); c++) {
    // Sums are rounded once, at the end: a thousand small changes must not each lose half a step.
    const sum = Float32Array.from(tile.planes[c]);
    for (const { rect, difference } of changesHere) {
      const meet = intersectRects(rect, here);
      if (isEmpty(meet)) continue;
      for (let y = meet.top; y < meet.top + meet.height; y++) {
        const from = (y - rect.top) * rect.width - rect.left;
        const onto = (y - top) * tile.width - left;
        for (let x = meet.left; x < meet.left + meet.width; x++) sum[onto + x] += difference[c][from + x];
      }
    }
    const plane = tile.planes[c];
    for (let i = 0; i < sum.length; i++) plane[i] = Math.max(0, Math.min(most, Math.round(sum[i])));
  }
}

/** Where a part of a level lies: its first pixel. */
export interface LevelPlace {
  readonly level: number;
  readonly left: number;
  readonly top: number;
}

/** A part of a level with the mends on it. On the full-size level the very pixels that will be delivered. */
export function mendPart(part: Raster, { level, left, top }: LevelPlace, mended: MendedPicture): Raster {
  const unit = 2 ** level;
  const patches = mended.patchesOn({
    left: left * unit,
    top: top * unit,
    width: part.width * unit,
    height: part.height * unit,
  });
  if (patches.length === 0) return part;
  const painted = cloneRaster(part);
  if (level === 0) for (const patch of patches) copyPatch(patch, painted, left, top);
  else
    addChanges(
      painted,
      left,
      top,
      patches.map((patch) => changeOn(patch, level, mended.pixels.shape)),
    );
  return painted;
}
