import { VALUE, holding, kernels, layOut, takeFloats } from '../kernels/kernels.ts';
import type { Raster } from './raster.ts';
import { colourChannels } from './raster.ts';

/** Writes one plane of a raster as values of 0 to 1, row after row without gaps, to a place that is held. */
export function layValues(
  { planes, width, height, stride, depth }: Raster,
  channel: number,
  onto: number,
): void {
  const plane = planes[channel];
  const count = width * height;
  const bytes = (count * depth) / 8;
  const isDense = stride === width;
  const [from] = layOut([isDense ? plane.subarray(0, count) : bytes]);
  if (!isDense) {
    const samples = new (depth === 8 ? Uint8Array : Uint16Array)(kernels().memory.buffer, from, count);
    for (let y = 0; y < height; y++) samples.set(plane.subarray(y * stride, y * stride + width), y * width);
  }
  const { fromBytes, fromShorts } = kernels();
  (depth === 8 ? fromBytes : fromShorts)(from, onto, count);
}

/** The colour planes of a raster as values of 0 to 1, row after row without gaps. */
export function valuesOf(raster: Raster): Float32Array[] {
  const count = raster.width * raster.height;
  return Array.from({ length: colourChannels(raster.planes.length) }, (_, c) =>
    holding([VALUE * count], (place) => {
      layValues(raster, c, place);
      return takeFloats(place, count);
    }),
  );
}
