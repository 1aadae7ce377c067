import { kernels, layOut, takeFloats } from '../filter/kernels.ts';

/** Weights of luma for red, green and blue: Rec. ITU-R BT.709-6, item 3.2. */
export const LUMA = [0.2126, 0.7152, 0.0722] as const;

/** The weighted sum of three planes, or the first of fewer. */
export function weightedLuma(planes: readonly Float32Array[]): Float32Array {
  if (planes.length < 3) return planes[0];
  const { length } = planes[0];
  const [red, green, blue, onto] = layOut([...planes.slice(0, 3), planes[0].byteLength]);
  kernels().weigh(red, green, blue, onto, length, ...LUMA);
  return takeFloats(onto, length);
}
