import type { Rect } from '@fennip/core/raster';
import type { OutlineTarget } from '@fennip/core/target';
import { outlineTarget } from './penStroke.ts';

/** A box as an outline on whole pixels; null where nothing lies in it. */
export function rectangleTarget({ left, top, width, height }: Rect): OutlineTarget | null {
  const [x0, y0] = [Math.round(left), Math.round(top)];
  const [x1, y1] = [Math.round(left + width), Math.round(top + height)];
  const corners = [
    [x0, y0],
    [x1, y0],
    [x1, y1],
    [x0, y1],
  ];
  return outlineTarget(corners.map(([x, y]) => ({ x, y, pressure: 1 })));
}
