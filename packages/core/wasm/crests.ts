import { RidgePoint } from '../src/kernels/layout';

// How points on crests lie in the memory: what linking asks of one stands together in one record, and where there is none is
// said by single bits, which stay near at hand where a number for every pixel would not.

/** Bytes of a record, and where what lies in it, see {@link RidgePoint}. */
export const RECORD: usize = RidgePoint.BYTES;
export const X: usize = RidgePoint.X;
export const Y: usize = RidgePoint.Y;
export const STRENGTH: usize = RidgePoint.STRENGTH;
export const ANGLE: usize = RidgePoint.ANGLE;
export const COS: usize = RidgePoint.COS;
export const SIN: usize = RidgePoint.SIN;

/** The byte of the bits of all pixels that holds one's. */
export function markOf(marks: usize, pixel: i32): usize {
  return marks + ((<usize>pixel) >> 3);
}

/** The number of the point in a pixel that holds one. Points are numbered row after row. */
export function numberUnder(marks: usize, before: usize, pixel: i32): i32 {
  const word = (<usize>pixel) >> 6;
  const lower = load<u64>(marks + (word << 3)) & (((<u64>1) << ((<u64>pixel) & 63)) - 1);
  return load<i32>(before + (word << 2)) + <i32>popcnt<u64>(lower);
}

export function isMarked(marks: usize, pixel: i32): bool {
  return (((<i32>load<u8>(markOf(marks, pixel))) >> (pixel & 7)) & 1) !== 0;
}

export function mark(marks: usize, pixel: i32): void {
  const byte = markOf(marks, pixel);
  const bit: i32 = 1 << (pixel & 7);
  store<u8>(byte, load<u8>(byte) | (<u8>bit));
}

export function unmark(marks: usize, pixel: i32): void {
  const byte = markOf(marks, pixel);
  const bit: i32 = 1 << (pixel & 7);
  store<u8>(byte, load<u8>(byte) & ~(<u8>bit));
}
