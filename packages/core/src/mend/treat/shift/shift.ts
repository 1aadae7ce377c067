import { LUMA } from '../../../light/luma.ts';
import type { Rect } from '../../../raster/rect.ts';
import { colourPlanes } from '../../../raster/patch.ts';
import type { Ground } from '../ground.ts';
import type { ShiftMend } from './shiftMend.ts';

/** How far a shift looks around, in pixels. */
export const shiftReach = ({ dx, dy }: ShiftMend): number => Math.max(Math.abs(dx), Math.abs(dy));

/**
 * The picture against itself, moved by a vector: of the two pixels the one whose luma is higher, or lower, as a whole,
 * so that no colour comes about that was not there. (W3C Compositing and Blending Level 1 compares channel by channel
 * in `lighten` and `darken`; this is the choice between whole colours.) Beyond the picture nothing is taken.
 */
export function shift(
  mend: ShiftMend,
  { raster, rect: whole, excluded }: Ground,
  rect: Rect,
): Float32Array[] {
  const { width, height, stride } = raster;
  const planes = colourPlanes(raster);
  const weights = planes.length === 3 ? LUMA : [1];
  const sign = mend.keeps === 'lighter' ? 1 : -1;
  const values = planes.map(() => new Float32Array(rect.width * rect.height));
  const isThere = (x: number, y: number): boolean =>
    x >= 0 && y >= 0 && x < width && y < height && !excluded?.[y * width + x];
  for (let y = 0, i = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++, i++) {
      const [px, py] = [rect.left + x - whole.left, rect.top + y - whole.top];
      const [fromX, fromY] = [px + mend.dx, py + mend.dy];
      const here = py * stride + px;
      const there = isThere(fromX, fromY) ? fromY * stride + fromX : here;
      let change = 0;
      for (let c = 0; c < planes.length; c++) change += weights[c] * (planes[c][there] - planes[c][here]);
      const taken = sign * change > 0 ? there : here;
      for (let c = 0; c < planes.length; c++) values[c][i] = planes[c][taken];
    }
  return values;
}
