import { LUMA } from '../light/luma.ts';
import { VALUE, floatsAt, holding, kernels, layOut } from '../kernels/kernels.ts';
import type { PictureShape, Raster } from '../raster/raster.ts';
import { colourChannels, fullScale } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { layValues } from '../raster/values.ts';

/**
 * Encoded values, 0 to 1, of the colour planes of a part of a picture, in the memory of the kernels. Steps of a finish
 * change them in place.
 */
export interface HeldPlanes {
  /** Where each plane lies, row after row without gaps. */
  readonly places: readonly number[];
  readonly rect: Rect;
  readonly picture: PictureShape;
}

export const countOf = ({ rect: { width, height } }: Pick<HeldPlanes, 'rect'>): number => width * height;

/** Holds the colour planes of a raster while something is done with them; see {@link holding}. */
export function holdingRaster<T>(
  raster: Raster,
  rect: Rect,
  picture: PictureShape,
  work: (held: HeldPlanes) => T,
): T {
  const count = raster.width * raster.height;
  const channels = colourChannels(raster.planes.length);
  return holding(
    Array.from({ length: channels }, () => VALUE * count),
    (...places) => {
      places.forEach((place, c) => layValues(raster, c, place));
      return work({ places, rect, picture });
    },
  );
}

/** Writes held values into a raster as its nearest samples. @param onto its first pixel is the rectangle's */
export function writeHeld(held: HeldPlanes, onto: Raster): void {
  const { width, height } = held.rect;
  const count = countOf(held);
  const { memory, toBytes, toShorts } = kernels();
  held.places.forEach((place, c) => {
    const [at] = layOut([(count * onto.depth) / 8]);
    (onto.depth === 8 ? toBytes : toShorts)(place, at, count, fullScale(onto.depth));
    const Codes = onto.depth === 8 ? Uint8Array : Uint16Array;
    const codes = new Codes(memory.buffer, at, count);
    for (let y = 0; y < height; y++)
      onto.planes[c].set(codes.subarray(y * width, (y + 1) * width), y * onto.stride);
  });
}

/** Keeps only what lies in a rectangle, in place. */
export function narrowHeld(held: HeldPlanes, to: Rect): HeldPlanes {
  const { rect, places } = held;
  if (to.width === rect.width && to.height === rect.height) return held;
  for (const place of places) {
    const values = floatsAt(place, countOf(held));
    for (let y = 0; y < to.height; y++) {
      const from = (to.top + y - rect.top) * rect.width + to.left - rect.left;
      values.copyWithin(y * to.width, from, from + to.width);
    }
  }
  return { ...held, rect: to };
}

/** Writes the luma of held planes, Rec. 709, to a place that is held as well. */
export function lumaHeld({ places, rect }: HeldPlanes, onto: number): void {
  const count = rect.width * rect.height;
  if (places.length < 3) floatsAt(onto, count).set(floatsAt(places[0], count));
  else kernels().weigh(places[0], places[1], places[2], onto, count, ...LUMA);
}

/** Adds the same to every channel, which changes luma and leaves the colour differences; bounded to 0 to 1. */
export function addToAll(held: HeldPlanes, change: number): void {
  for (const place of held.places) kernels().addBounded(place, change, countOf(held));
}
