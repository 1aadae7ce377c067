import type { Rect } from '@fennip/core/raster';
import type { Shift } from '@fennip/core/source';
import { TILE_SIZE } from '@fennip/core/raster';
import { engine } from '../engine/page/workers.ts';
import type { PenPoint } from '../canvas/penPoint.ts';

/** Tiles are asked for each time that so much has been drawn, in pixels of the picture. */
const RUN = TILE_SIZE / 2;

/**
 * Has the full-size tiles under a stroke fetched while it is drawn, and those that it takes from: seen whole, a large
 * picture has few of them at hand, and all would be waited for at the end.
 *
 * @param radius of the stroke, in pixels of the picture
 * @param shift from the stroke to its source, where one is set
 * @returns to be called with the places of the pen as they come
 */
export function fetchTilesAlong(
  start: PenPoint,
  radius: number,
  shift: Shift | null,
): (places: readonly PenPoint[]) => void {
  let run = [start];
  return (places) => {
    run.push(...places);
    const [xs, ys] = [run.map(({ x }) => x), run.map(({ y }) => y)];
    const [left, top] = [Math.min(...xs) - radius, Math.min(...ys) - radius];
    const [right, bottom] = [Math.max(...xs) + radius, Math.max(...ys) + radius];
    if (right - left < RUN && bottom - top < RUN) return;
    const under: Rect = { left, top, width: right - left, height: bottom - top };
    const from = shift && { ...under, left: left + shift.dx, top: top + shift.dy };
    void engine().fetchFor(from ? [under, from] : [under]);
    run = run.slice(-1);
  };
}
