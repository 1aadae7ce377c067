import { lightPatchOf, shrinkLight } from '../../mend/recover/lightPatch.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { growRect } from '../../raster/rect.ts';
import { LOOK_SIDE } from '../classify/netLayers.ts';
import type { Fault } from '../fault.ts';

/** Radius of a speck in samples, wherever it was found: its surroundings reach as far as three radii. */
export const LOOK_RADIUS = LOOK_SIDE / 6;
/** A patch is halved until the radius is at most so many samples of it. */
const SHRUNK = 1.5 * LOOK_RADIUS;
/** Pixels beyond the square that are read between. */
const BEYOND = 2;

/**
 * The light of a speck and its surroundings, at one size: {@link LOOK_SIDE} samples on each side, the radius
 * {@link LOOK_RADIUS} of them.
 *
 * @returns linear light, 0 to 1, row after row, one array for each colour channel; beyond the picture that at its border
 */
export function speckLight({ x, y, r }: Pick<Fault, 'x' | 'y' | 'r'>, pixels: Pixels): Float32Array[] {
  const middle = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
  const window = pixels.window(growRect(middle, Math.ceil(3 * r) + BEYOND));
  const { planes, left, top, scale, width, height } = shrinkLight(lightPatchOf(window), r, SHRUNK);
  const step = r / LOOK_RADIUS / scale;
  const out = planes.map(() => new Float32Array(LOOK_SIDE * LOOK_SIDE));
  for (let row = 0, i = 0; row < LOOK_SIDE; row++) {
    const v = (y - top) / scale + (row + 0.5 - LOOK_SIDE / 2) * step - 0.5;
    const [y0, y1] = [clamped(Math.floor(v), height), clamped(Math.floor(v) + 1, height)];
    const down = v - Math.floor(v);
    for (let column = 0; column < LOOK_SIDE; column++, i++) {
      const u = (x - left) / scale + (column + 0.5 - LOOK_SIDE / 2) * step - 0.5;
      const [x0, x1] = [clamped(Math.floor(u), width), clamped(Math.floor(u) + 1, width)];
      const along = u - Math.floor(u);
      for (let c = 0; c < planes.length; c++) {
        const plane = planes[c];
        const upper = plane[y0 * width + x0] * (1 - along) + plane[y0 * width + x1] * along;
        const lower = plane[y1 * width + x0] * (1 - along) + plane[y1 * width + x1] * along;
        out[c][i] = upper * (1 - down) + lower * down;
      }
    }
  }
  return out;
}

const clamped = (at: number, count: number): number => Math.max(0, Math.min(count - 1, at));
