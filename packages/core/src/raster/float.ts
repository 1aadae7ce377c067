import { LUMA } from '../colour/luma.ts';
import { kernels, layOut, takeFloats } from '../filter/kernels.ts';
import type { Raster } from './raster.ts';
import { cloneRaster, colourChannels } from './raster.ts';
import { valuesOf } from './values.ts';

/** One channel of floating samples, row after row without gaps. */
export interface FloatPlane {
  readonly width: number;
  readonly height: number;
  readonly data: Float32Array;
}

export const createFloatPlane = (width: number, height: number): FloatPlane => ({
  width,
  height,
  data: new Float32Array(width * height),
});

/**
 * Luma of encoded values, 0 to 1: the weighted sum of ITU-R BT.709 for colour, the value itself for grey.
 * Alpha is left out.
 */
export function lumaPlane(raster: Raster): FloatPlane {
  const { width, height, depth, stride } = raster;
  if (colourChannels(raster.planes.length) < 3) return { width, height, data: valuesOf(raster)[0] };
  const count = width * height;
  const planes = (stride === width ? raster : cloneRaster(raster)).planes.slice(0, 3);
  const room = Float32Array.BYTES_PER_ELEMENT * count;
  const [first, second, third, red, green, blue] = layOut([
    ...planes.map((plane) => plane.subarray(0, count)),
    ...[room, room, room],
  ]);
  const { fromBytes, fromShorts, weigh } = kernels();
  const decode = depth === 8 ? fromBytes : fromShorts;
  decode(first, red, count);
  decode(second, green, count);
  decode(third, blue, count);
  weigh(red, green, blue, red, count, ...LUMA);
  return { width, height, data: takeFloats(red, count) };
}

/** Halves a float plane by area, as {@link halveRaster} does for integers, without rounding. */
export function halveFloat(plane: FloatPlane): FloatPlane {
  const width = Math.ceil(plane.width / 2);
  const height = Math.ceil(plane.height / 2);
  const half = createFloatPlane(width, height);
  const { data } = plane;
  for (let y = 0; y < height; y++) {
    const upper = 2 * y * plane.width;
    const lower = Math.min(2 * y + 1, plane.height - 1) * plane.width;
    for (let x = 0; x < width; x++) {
      const right = Math.min(2 * x + 1, plane.width - 1);
      half.data[y * width + x] =
        0.25 * (data[upper + 2 * x] + data[upper + right] + data[lower + 2 * x] + data[lower + right]);
    }
  }
  return half;
}
