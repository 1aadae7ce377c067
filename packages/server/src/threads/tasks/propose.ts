import type { FaultToMend, MendProposal, MendSurroundings } from '@fennip/core/mend';
import { applyMend, canvasOf, mendFault } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { cloneRaster, intersectRects, layPatch, pictureRect } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import type { Original } from './original.ts';
import { pixelsOfOriginal } from './original.ts';

/** A proposed mend and its place before and with it, as PNG. */
export interface SeenProposal {
  readonly proposal: MendProposal;
  /** Half the side of the square that is shown, in pixels. */
  readonly half: number;
  readonly before: Uint8Array;
  readonly after: Uint8Array;
}

/** How much around a fault is shown, in radii and in pixels. */
const SHOWN = { radii: 4, least: 40, most: 250 };

/** A mend for one fault, and how its place looks before and with it. */
export async function propose({
  fault,
  surroundings,
  ...of
}: Original & {
  readonly fault: FaultToMend;
  readonly surroundings: MendSurroundings;
}): Promise<SeenProposal> {
  const pixels = await pixelsOfOriginal(of);
  const proposal = mendFault(fault, surroundings, pixels);
  const half = Math.round(Math.min(SHOWN.most, Math.max(SHOWN.least, SHOWN.radii * fault.r)));
  const place = {
    left: Math.round(fault.x) - half,
    top: Math.round(fault.y) - half,
    width: 2 * half,
    height: 2 * half,
  };
  const window = pixels.window(intersectRects(place, pictureRect(pixels.shape)));
  const after = cloneRaster(window.raster);
  const patch = applyMend(proposal.mend, canvasOf(pixels, surroundings.fences ?? []));
  layPatch(patch, { ...window, raster: after });
  const png = (raster: Raster): Promise<Buffer> =>
    encodePicture(raster, {}, { format: 'png', quality: 100, depth: 8 });
  return { proposal, half, before: await png(window.raster), after: await png(after) };
}
