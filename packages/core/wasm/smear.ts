/**
 * Adds a plane to another, read a little way off: straight between the four samples around each place. All places are
 * bytes, samples 32-bit floats.
 *
 * @param from the sample left of and above the first place, in rows of `stride` bytes; four more are read behind each row
 * @param onto rows without gaps
 * @param weights of the sample, of that on its right, and of the two below them
 */
export function addBetween(
  from: usize,
  stride: usize,
  onto: usize,
  width: i32,
  height: i32,
  first: f32,
  right: f32,
  below: f32,
  askew: f32,
): void {
  const row = (<usize>width) << 2;
  const four = row & ~15;
  for (let y = 0; y < height; y++, from += stride, onto += row) {
    const under = from + stride;
    let i: usize = 0;
    for (; i < four; i += 16) {
      const upper = f32x4.add(
        f32x4.mul(f32x4.splat(first), v128.load(from + i)),
        f32x4.mul(f32x4.splat(right), v128.load(from + i + 4)),
      );
      const lower = f32x4.add(
        f32x4.mul(f32x4.splat(below), v128.load(under + i)),
        f32x4.mul(f32x4.splat(askew), v128.load(under + i + 4)),
      );
      v128.store(onto + i, f32x4.add(v128.load(onto + i), f32x4.add(upper, lower)));
    }
    for (; i < row; i += 4) {
      const upper = first * load<f32>(from + i) + right * load<f32>(from + i + 4);
      const lower = below * load<f32>(under + i) + askew * load<f32>(under + i + 4);
      store<f32>(onto + i, load<f32>(onto + i) + (upper + lower));
    }
  }
}
