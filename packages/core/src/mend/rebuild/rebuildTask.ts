import type { Fence } from '../../fence/fence.ts';
import type { Rect } from '../../raster/rect.ts';
import type { Window } from '../../raster/window.ts';
import { narrowWindow } from '../../raster/window.ts';
import { canvasOf } from '../canvas.ts';
import type { RebuildMend } from './rebuildMend.ts';
import type { RebuildAnswer } from './rebuild.ts';
import { rebuildSteps } from './rebuild.ts';

/** All that is needed to work a rebuild out, wherever that is done. */
export interface RebuildTask {
  readonly mend: RebuildMend;
  readonly fences: readonly Fence[];
  /** All that the mend looks at. */
  readonly window: Window;
}

/** Carries out a task. @yields an answer for each level, see {@link rebuildSteps} */
export function rebuildTask({ mend, fences, window }: RebuildTask): Generator<RebuildAnswer, void> {
  const pixels = { shape: window.picture, window: (rect: Rect) => narrowWindow(window, rect) };
  return rebuildSteps(mend, canvasOf(pixels, fences));
}
