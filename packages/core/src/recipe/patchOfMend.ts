import { applyMend, finishPatch, mendFootprint } from '../mend/applyMend.ts';
import type { Canvas } from '../mend/canvas.ts';
import type { SpotMend } from '../mend/spotMend.ts';
import type { Patch } from '../raster/patch.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { isEmpty, rectHolds } from '../raster/rect.ts';
import type { Underway } from './elsewhere.ts';
import type { PatchMemory } from './patchMemory.ts';
import { isWorthKeeping } from './patchMemory.ts';

/** A patch that changes nothing of what a mend may change. */
function nothingOf(mend: SpotMend, picture: PictureShape): Patch {
  const rect = mendFootprint(mend, picture);
  return { rect, values: [], coverage: new Float32Array(rect.width * rect.height) };
}

/** What is made of a mend by now: of one that is worked out elsewhere nothing before its first answer. */
export function patchOf(mend: SpotMend, made: Underway | null, canvas: Canvas): Patch {
  const { shape } = canvas.pixels;
  const invented = made?.invented ?? null;
  const isHere = invented !== null && rectHolds(mendFootprint(mend, shape), invented.rect);
  const finished = isHere ? finishPatch(mend, invented, canvas) : null;
  const patch = made ? finished : applyMend(mend, canvas);
  return patch && !isEmpty(patch.rect) ? patch : nothingOf(mend, shape);
}

/** What is made of a mend here, or was made of it before. */
export async function patchBy(
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
