// How strong the detail of a texture is. All places are bytes.
import { meanColumns, meanRows } from './filters';

/** Shares below this are nothing but rounding. */
const NONE: f32 = 1e-6;

/** The value of a mean over a square, as one over those of its samples that count. */
function perSample(means: v128, shares: v128): v128 {
  const zero = f32x4.splat(0);
  const counts = f32x4.gt(shares, f32x4.splat(NONE));
  return v128.bitselect(f32x4.max(zero, f32x4.div(means, shares)), zero, counts);
}

/**
 * The mean square of detail nearby, over those samples that count. What stands out of the usual too far counts as that
 * far.
 *
 * @param detail 32-bit floats, with room for four samples behind the last, as all planes here
 * @param mask 1 where a sample counts and 0 where not, 32-bit floats
 * @param shares how many of the samples nearby count
 * @param farthest how far detail may stand out, as a multiple of the square of the usual root
 * @param work room for a plane and 32 bytes, then a row of 64-bit floats
 * @param onto takes the result
 */
export function energyNearby(
  detail: usize,
  mask: usize,
  shares: usize,
  width: i32,
  height: i32,
  radius: i32,
  farthest: f32,
  work: usize,
  onto: usize,
): void {
  const bytes = (<usize>(width * height)) << 2;
  const sums = work + ((bytes + 31) & ~15);
  for (let i: usize = 0; i < bytes; i += 16)
    v128.store(onto + i, f32x4.mul(f32x4.sqrt(f32x4.abs(v128.load(detail + i))), v128.load(mask + i)));
  meanRows(onto, work, width, height, radius);
  meanColumns(work, onto, width, height, radius, sums);
  const most = f32x4.splat(farthest);
  for (let i: usize = 0; i < bytes; i += 16) {
    const usual = perSample(v128.load(onto + i), v128.load(shares + i));
    const size = f32x4.min(f32x4.abs(v128.load(detail + i)), f32x4.mul(most, f32x4.mul(usual, usual)));
    v128.store(onto + i, f32x4.mul(f32x4.mul(size, size), v128.load(mask + i)));
  }
  meanRows(onto, work, width, height, radius);
  meanColumns(work, onto, width, height, radius, sums);
  for (let i: usize = 0; i < bytes; i += 16)
    v128.store(onto + i, perSample(v128.load(onto + i), v128.load(shares + i)));
}
