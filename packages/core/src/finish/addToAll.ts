import { kernels, layOut, takeFloats } from '../filter/kernels.ts';

/** Adds the same to every channel, which changes luma and leaves the colour differences; bounded to 0 to 1. */
export function addToAll(planes: readonly Float32Array[], change: Float32Array): Float32Array[] {
  const [added, ...places] = layOut([change, ...planes]);
  for (const place of places) kernels().addBounded(place, added, change.length);
  return places.map((place) => takeFloats(place, change.length));
}
