import type { Orientation, Placement } from './sensor.ts';
import { isTurned, onPicture } from './sensor.ts';

/** Something with one value for each pixel, row after row without gaps. */
interface Values {
  readonly length: number;
  [at: number]: number;
}

/**
 * Turns values of an upright picture back to how the sensor lay, without a change of size.
 *
 * @param sides of the upright picture, in pixels
 * @param onto as many values as there are pixels
 */
export function levelPlane<T extends Values>(
  values: T,
  { width, height }: { readonly width: number; readonly height: number },
  orientation: Orientation,
  onto: T,
): T {
  const placement: Placement = { orientation, left: 0, top: 0, scale: 1, width, height };
  const [columns, rows] = isTurned(orientation) ? [height, width] : [width, height];
  // The map is one of whole steps: the first place of a row and the step along it tell the row.
  const indexOf = (x: number, y: number): number => {
    const [px, py] = onPicture(x + 0.5, y + 0.5, placement);
    return Math.floor(py) * width + Math.floor(px);
  };
  for (let y = 0; y < rows; y++) {
    const first = indexOf(0, y);
    const along = indexOf(1, y) - first;
    for (let x = 0, from = first, to = y * columns; x < columns; x++, to++, from += along)
      onto[to] = values[from];
  }
  return onto;
}
