import { SRGB_TRANSFER, sharedTransferTable } from '../../light/transfer.ts';
import { VALUE, floatsAt, kernels, layOut } from '../../kernels/kernels.ts';
import { colourPlanes } from '../../raster/patch.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { Plane, Raster } from '../../raster/raster.ts';
import { fullScale } from '../../raster/raster.ts';
import { growRect } from '../../raster/rect.ts';
import { LOOK_SIDE } from '../classify/netLayers.ts';
import type { Fault } from '../../fault/fault.ts';

/** Radius of a speck in samples, wherever it was found: its surroundings reach as far as three radii. */
export const LOOK_RADIUS = LOOK_SIDE / 6;
/** What is read is halved until the radius is at most so many samples of it. */
const SHRUNK = 1.5 * LOOK_RADIUS;
/** What has a side below this is not halved. */
const SMALLEST_SIDE = 24;
/** Pixels beyond the square that are read between. */
const BEYOND = 2;
/** Bytes that sampling keeps of each column. */
const COLUMN_BYTES = 12;
const LOOK_SAMPLES = LOOK_SIDE * LOOK_SIDE;

/** Lays the light of codes out row after row, without the gaps between the rows of a part. */
function layLight(
  plane: Plane,
  { width, height, stride }: Raster,
  light: Float32Array,
  onto: Float32Array,
): void {
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0, from = y * stride; x < width; x++) onto[i++] = light[plane[from + x]];
}

/**
 * The light of a speck and its surroundings, at one size: {@link LOOK_SIDE} samples on each side, the radius
 * {@link LOOK_RADIUS} of them.
 *
 * @returns linear light, 0 to 1, row after row, one array for each colour channel; beyond the picture that at its border
 */
export function speckLight({ x, y, r }: Pick<Fault, 'x' | 'y' | 'r'>, pixels: Pixels): Float32Array[] {
  const middle = { left: Math.floor(x), top: Math.floor(y), width: 1, height: 1 };
  const { left, top, raster, picture } = pixels.window(growRect(middle, Math.ceil(3 * r) + BEYOND));
  const { halveFloats, sampleSquare } = kernels();
  const count = raster.width * raster.height;
  return colourPlanes(raster).map((plane, c) => {
    const { light } = sharedTransferTable(picture.transfer?.[c] ?? SRGB_TRANSFER, fullScale(raster.depth));
    const [full, half, work, onto] = layOut([
      ...[VALUE * count, VALUE * count, COLUMN_BYTES * LOOK_SIDE, VALUE * LOOK_SAMPLES],
    ]);
    layLight(plane, raster, light, floatsAt(full, count));
    let [from, other] = [full, half];
    let { width, height } = raster;
    let scale = 1;
    for (; r / scale > SHRUNK && Math.min(width, height) >= SMALLEST_SIDE; scale *= 2) {
      halveFloats(from, other, width, height);
      [from, other] = [other, from];
      [width, height] = [(width + 1) >> 1, (height + 1) >> 1];
    }
    const step = r / LOOK_RADIUS / scale;
    // A sample stands for the middle of its pixels.
    const first = ((1 - LOOK_SIDE) / 2) * step - 0.5;
    const [u, v] = [(x - left) / scale + first, (y - top) / scale + first];
    sampleSquare(from, width, height, u, v, step, LOOK_SIDE, work, onto);
    return floatsAt(onto, LOOK_SAMPLES).slice();
  });
}
