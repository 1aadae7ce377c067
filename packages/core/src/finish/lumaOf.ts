import { LUMA } from '../colour/luma.ts';

/** The weighted sum of three planes (Rec. 709), or the one that there is. */
export function lumaOf(planes: readonly Float32Array[]): Float32Array {
  if (planes.length < 3) return planes[0];
  const [red, green, blue] = planes;
  const out = new Float32Array(red.length);
  for (let i = 0; i < out.length; i++) out[i] = LUMA[0] * red[i] + LUMA[1] * green[i] + LUMA[2] * blue[i];
  return out;
}

/** Adds the same to every channel, which changes luma and leaves the colour differences; bounded to 0 to 1. */
export const addToAll = (planes: readonly Float32Array[], change: Float32Array): Float32Array[] =>
  planes.map((plane) => {
    const out = new Float32Array(plane.length);
    for (let i = 0; i < out.length; i++) out[i] = Math.min(1, Math.max(0, plane[i] + change[i]));
    return out;
  });
