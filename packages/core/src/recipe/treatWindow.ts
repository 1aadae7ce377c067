import { layPatch } from '../raster/patch.ts';
import { canvasOf } from '../mend/canvas.ts';
import type { Fence } from '../fence/fence.ts';
import { cloneRaster } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty } from '../raster/rect.ts';
import type { Window } from '../raster/window.ts';
import { narrowWindow } from '../raster/window.ts';
import type { LaidPixels } from './laidPatch.ts';
import { applyTreatment } from '../mend/treat/applyTreatment.ts';
import type { Treatment } from '../mend/treat/treatment.ts';

/** All that is needed to carry a treatment out on a part of a picture, wherever that is done. */
export interface TreatTask {
  readonly mend: Treatment;
  readonly fences: readonly Fence[];
  /** The part with what the treatment looks at around it. */
  readonly window: Window;
  /** The part that is wanted. */
  readonly within: Rect;
}

/** Carries out a task. @returns the pixels of what changes; null where nothing does */
export function treatWindow({ mend, fences, window, within }: TreatTask): LaidPixels | null {
  const pixels = { shape: window.picture, window: (rect: Rect) => narrowWindow(window, rect) };
  const patch = applyTreatment(mend, canvasOf(pixels, fences), within);
  if (isEmpty(patch.rect)) return null;
  const under = narrowWindow(window, patch.rect);
  const after = cloneRaster(under.raster);
  layPatch(patch, { ...under, raster: after });
  return { rect: patch.rect, after };
}
