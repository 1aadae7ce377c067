import type { MaskTarget, Target } from '@fennip/core/target';
import { areaOfTarget, followEdges, followReach } from '@fennip/core/fence';
import { TILE_SIZE, growRect, intersectRects, pictureRect } from '@fennip/core/raster';
import { maskOfSpans } from '@fennip/core/target';
import type { TileStore } from '../paint/tileStore.ts';

/** Moves the border of an area onto edges of the picture within reach of it, tile by tile. */
export async function followArea(
  { pixels, ready }: TileStore,
  target: Target,
  reach: number,
): Promise<MaskTarget | null> {
  const whole = pictureRect(pixels.shape);
  let area = areaOfTarget(target, pixels.shape);
  const before = area;
  for (let top = 0; top < whole.height; top += TILE_SIZE)
    for (let left = 0; left < whole.width; left += TILE_SIZE) {
      const part = intersectRects({ left, top, width: TILE_SIZE, height: TILE_SIZE }, whole);
      const wide = intersectRects(growRect(part, followReach(reach)), whole);
      if (
        !isCut(
          before.rows.slice(Math.max(0, wide.top - before.top), wide.top + wide.height - before.top),
          wide,
        )
      )
        continue;
      await ready([wide]);
      area = followEdges(area, reach, [{ window: pixels.window(wide), part }]);
    }
  return maskOfSpans(area);
}

/** Whether some row of an area begins or ends inside a rectangle, or not all of its rows are alike there. */
function isCut(
  rows: readonly (readonly number[])[],
  { left, width, height }: ReturnType<typeof growRect>,
): boolean {
  const right = left + width;
  const covered = rows.map((row) => {
    let sum = 0;
    for (let k = 0; k < row.length; k += 2)
      sum += Math.max(0, Math.min(right, row[k + 1]) - Math.max(left, row[k]));
    return sum;
  });
  const all = covered.length === height && covered.every((sum) => sum === width);
  return !all && covered.some((sum) => sum > 0);
}
