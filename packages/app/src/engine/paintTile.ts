import type { LaidPatch, LevelChange, MendedPicture, PictureShape, Raster, Rect } from '@fennip/core';
import {
  TILE_SIZE,
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

/** A tile with the mends on it. On the full-size level the very pixels that will be delivered. */
export function mendTile(
  tile: Raster,
  level: number,
  column: number,
  row: number,
  mended: MendedPicture,
): Raster {
  const picture = mended.pixels.shape;
  const side = TILE_SIZE * 2 ** level;
  const patches = mended.patchesOn({ left: column * side, top: row * side, width: side, height: side });
  if (patches.length === 0) return tile;
  const painted = cloneRaster(tile);
  const [left, top] = [column * TILE_SIZE, row * TILE_SIZE];
  if (level === 0) for (const patch of patches) copyPatch(patch, painted, left, top);
  else
    addChanges(
      painted,
      left,
      top,
      patches.map((patch) => changeOn(patch, level, picture)),
    );
  return painted;
}
