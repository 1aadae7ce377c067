import { columnOf } from '../measure/columnOf.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import type { Patch } from '../raster/patch.ts';
import { colourPlanes, layPatch } from '../raster/patch.ts';
import type { PictureShape, Raster } from '../raster/raster.ts';
import { cloneRaster, copyRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import type { Window } from '../raster/window.ts';

/** A part of the picture as a mend leaves it. */
export interface LaidPixels {
  readonly rect: Rect;
  readonly after: Raster;
}

/** A mend as it lies on the picture: the pixels of its rectangle without it and with it. */
export interface LaidPatch extends LaidPixels {
  readonly mend: SpotMend;
  readonly before: Raster;
  /** Which answer it shows of a rebuild that is worked out elsewhere: how many there were by then. */
  readonly answer?: number;
}

/** Lays a patch onto what lies under it and keeps both. `under` holds just the patch's rectangle. */
export function keepPatch(mend: SpotMend, patch: Patch, under: Window): LaidPatch {
  const before = cloneRaster(under.raster);
  const after = cloneRaster(under.raster);
  layPatch(patch, { ...under, raster: after });
  return { mend, rect: patch.rect, before, after };
}

/** Copies a laid patch onto a raster whose first pixel is the picture's pixel (left, top). */
export const copyPatch = (laid: LaidPixels, onto: Raster, left: number, top: number): void =>
  copyRaster(laid.after, onto, laid.rect.left - left, laid.rect.top - top);

/** What a mend changes on one level of the pyramid: differences in code values, one array for each colour channel. */
export interface LevelChange {
  readonly rect: Rect;
  readonly difference: readonly Float32Array[];
}

function fullChange({ rect, before, after }: LaidPatch): LevelChange {
  const to = colourPlanes(after);
  const difference = colourPlanes(before).map((plane, c) =>
    columnOf(Float32Array, plane, (value, i) => to[c][i] - value),
  );
  return { rect, difference };
}

/** Halves a change by area. Cells at the picture's odd right or lower border have half the pixels to share. */
function halveChange(
  { rect, difference }: LevelChange,
  level: { width: number; height: number },
): LevelChange {
  const left = rect.left >> 1;
  const top = rect.top >> 1;
  const width = ((rect.left + rect.width - 1) >> 1) - left + 1;
  const height = ((rect.top + rect.height - 1) >> 1) - top + 1;
  const halved = difference.map((values) => {
    const sum = new Float32Array(width * height);
    for (let y = 0; y < rect.height; y++) {
      const tall = rect.top + y === level.height - 1 && level.height % 2 === 1 ? 1 : 0.5;
      const row = (((rect.top + y) >> 1) - top) * width;
      for (let x = 0; x < rect.width; x++) {
        const wide = rect.left + x === level.width - 1 && level.width % 2 === 1 ? 1 : 0.5;
        sum[row + ((rect.left + x) >> 1) - left] += values[y * rect.width + x] * tall * wide;
      }
    }
    return sum;
  });
  return { rect: { left, top, width, height }, difference: halved };
}

/**
 * What a mend changes on every level, full size first. Halving commutes with adding, so levels need no pixels below.
 *
 * @param levels how many, the full size included
 */
export function changeOnLevels(laid: LaidPatch, picture: PictureShape, levels: number): LevelChange[] {
  const changes = [fullChange(laid)];
  let { width, height } = picture;
  while (changes.length < levels) {
    changes.push(halveChange(changes[changes.length - 1], { width, height }));
    width = Math.ceil(width / 2);
    height = Math.ceil(height / 2);
  }
  return changes;
}
