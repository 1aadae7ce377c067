import { LUMA } from '../colour/luma.ts';
import { kernels, layOut, takeFloats } from '../filter/kernels.ts';

/** The weighted sum of three planes (Rec. 709), or the one that there is. */
export function lumaOf(planes: readonly Float32Array[]): Float32Array {
  if (planes.length < 3) return planes[0];
  const { length } = planes[0];
  const [red, green, blue, onto] = layOut([...planes.slice(0, 3), planes[0].byteLength]);
  kernels().weigh(red, green, blue, onto, length, ...LUMA);
  return takeFloats(onto, length);
}

/** Adds the same to every channel, which changes luma and leaves the colour differences; bounded to 0 to 1. */
export function addToAll(planes: readonly Float32Array[], change: Float32Array): Float32Array[] {
  const [added, ...places] = layOut([change, ...planes]);
  for (const place of places) kernels().addBounded(place, added, change.length);
  return places.map((place) => takeFloats(place, change.length));
}
