import { LUMA } from '../light/luma.ts';
import { kernels, layOut, takeFloats } from '../kernels/kernels.ts';
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
 *
 * @param raster 8 or 16 bit, 1 to 4 channels
 * @returns a value for each pixel, row after row
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
export function halveFloat({ width, height, data }: FloatPlane): FloatPlane {
  const half = { width: Math.ceil(width / 2), height: Math.ceil(height / 2) };
  const count = half.width * half.height;
  const [from, onto] = layOut([data.subarray(0, width * height), Float32Array.BYTES_PER_ELEMENT * count]);
  kernels().halveFloats(from, onto, width, height);
  return { ...half, data: takeFloats(onto, count) };
}
