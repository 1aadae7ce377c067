import type { FloatPlane } from '../raster/float.ts';
import type { Rect } from '../raster/rect.ts';
import type { Places } from './sampleTarget.ts';

/**
 * The direction along which tone changes least on some places, as a unit vector: across the strongest direction of the
 * structure tensor. (Foerstner and Guelch 1987; Bigun and Granlund 1987.)
 *
 * @param places pixels of the picture; those at the border of what is read do not count
 */
export function tangentOf(
  { data, width, height }: FloatPlane,
  places: Places,
  { left, top }: Rect,
): readonly [number, number] {
  let [xx, xy, yy] = [0, 0, 0];
  for (let k = 0; k < places.x.length; k++) {
    const [x, y] = [places.x[k] - left, places.y[k] - top];
    if (x < 1 || y < 1 || x + 1 >= width || y + 1 >= height) continue;
    const i = y * width + x;
    const dx = data[i + 1] - data[i - 1];
    const dy = data[i + width] - data[i - width];
    xx += dx * dx;
    xy += dx * dy;
    yy += dy * dy;
  }
  const across = 0.5 * Math.atan2(2 * xy, xx - yy);
  return [-Math.sin(across), Math.cos(across)];
}
