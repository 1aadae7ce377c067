import { kernels, layOut, takeFloats } from '../filter/kernels.ts';
import type { Depth, Raster } from './raster.ts';
import { cloneRaster, colourChannels, fullScale } from './raster.ts';

const FLOAT_BYTES = 4;

/** The colour planes of a raster as values of 0 to 1, row after row without gaps. */
export function valuesOf(raster: Raster): Float32Array[] {
  const { width, height, planes, stride } = raster;
  const count = width * height;
  const whole = stride === width ? planes : cloneRaster(raster).planes;
  const { fromBytes, fromShorts } = kernels();
  return whole.slice(0, colourChannels(planes.length)).map((plane) => {
    const [from, onto] = layOut([plane.subarray(0, count), FLOAT_BYTES * count]);
    if (raster.depth === 8) fromBytes(from, onto, count);
    else fromShorts(from, onto, count);
    return takeFloats(onto, count);
  });
}

/**
 * Values times a scale as the nearest samples; what lies beyond is the nearest end.
 *
 * @param scale what a value of 1 becomes; the largest code where none is given
 */
export function codesOf(
  values: Float32Array,
  depth: Depth,
  scale = fullScale(depth),
): Uint8Array | Uint16Array {
  const [from, onto] = layOut([values, values.byteLength]);
  const { memory, toBytes, toShorts } = kernels();
  if (depth === 8) {
    toBytes(from, onto, values.length, scale);
    return new Uint8Array(memory.buffer, onto, values.length).slice();
  }
  toShorts(from, onto, values.length, scale);
  return new Uint16Array(memory.buffer, onto, values.length).slice();
}
