import type { Rect } from '../../raster/rect.ts';

/** The pixels of a level that hold what a rectangle of the first level holds. */
export function onLevel({ left, top, width, height }: Rect, level: number): Rect {
  const scale = 2 ** level;
  const [first, upper] = [Math.floor(left / scale), Math.floor(top / scale)];
  return {
    left: first,
    top: upper,
    width: Math.ceil((left + width) / scale) - first,
    height: Math.ceil((top + height) / scale) - upper,
  };
}
