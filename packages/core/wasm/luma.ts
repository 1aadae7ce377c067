// Planes of luma in whole numbers of 16 bit, eight samples at a time; no sample is above 32,767. All offsets are bytes,
// rows follow one another without gaps.

/** Weights of ITU-R BT.709 in 256ths. */
const RED: i32 = 54;
const GREEN: i32 = 183;
const BLUE: i32 = 19;

/** Places in the table of eight pixels: four times their luma in 256ths of a code by 16. */
function placesOf(red: v128, green: v128, blue: v128): v128 {
  const sum = i16x8.add(
    i16x8.mul(red, i16x8.splat(<i16>RED)),
    i16x8.add(i16x8.mul(green, i16x8.splat(<i16>GREEN)), i16x8.mul(blue, i16x8.splat(<i16>BLUE))),
  );
  return i16x8.shr_u(sum, 2);
}

/** Looks two places up that stand in one number. */
function lookUpTwo(table: usize, places: u32): u32 {
  const first = <u32>load<u16>(table + (((<usize>places) & 0xffff) << 1));
  return first | ((<u32>load<u16>(table + (((<usize>places) >> 16) << 1))) << 16);
}

/** Looks eight places up. */
function lookUpEight(table: usize, places: v128, onto: usize): void {
  store<u32>(onto, lookUpTwo(table, <u32>i32x4.extract_lane(places, 0)), 0);
  store<u32>(onto, lookUpTwo(table, <u32>i32x4.extract_lane(places, 1)), 4);
  store<u32>(onto, lookUpTwo(table, <u32>i32x4.extract_lane(places, 2)), 8);
  store<u32>(onto, lookUpTwo(table, <u32>i32x4.extract_lane(places, 3)), 12);
}

/** The logarithm of the luma of 8-bit values; `table` holds one for each luma of four times 255 by 16. */
export function logLuma8(red: usize, green: usize, blue: usize, onto: usize, count: i32, table: usize): void {
  let i = 0;
  for (; i + 16 <= count; i += 16) {
    const r = v128.load(red + i);
    const g = v128.load(green + i);
    const b = v128.load(blue + i);
    const low = placesOf(
      i16x8.extend_low_i8x16_u(r),
      i16x8.extend_low_i8x16_u(g),
      i16x8.extend_low_i8x16_u(b),
    );
    const high = placesOf(
      i16x8.extend_high_i8x16_u(r),
      i16x8.extend_high_i8x16_u(g),
      i16x8.extend_high_i8x16_u(b),
    );
    lookUpEight(table, low, onto + (i << 1));
    lookUpEight(table, high, onto + (i << 1) + 16);
  }
  for (; i < count; i++) {
    const luma =
      RED * <i32>load<u8>(red + i) + GREEN * <i32>load<u8>(green + i) + BLUE * <i32>load<u8>(blue + i);
    store<u16>(onto + (i << 1), load<u16>(table + ((luma >> 2) << 1)));
  }
}

/** The same of 16-bit values, which stand 257 times as high. */
export function logLuma16(
  red: usize,
  green: usize,
  blue: usize,
  onto: usize,
  count: i32,
  table: usize,
): void {
  for (let i = 0; i < count; i++) {
    const at = i << 1;
    const luma =
      RED * <i32>load<u16>(red + at) + GREEN * <i32>load<u16>(green + at) + BLUE * <i32>load<u16>(blue + at);
    store<u16>(onto + at, load<u16>(table + ((<i32>(<f64>luma * (0.25 / 257))) << 1)));
  }
}

/** Halves a plane by the mean of four; an odd side counts its last row or column twice. */
export function halve(from: usize, onto: usize, width: i32, height: i32): void {
  const columns = (width + 1) >> 1;
  const rows = (height + 1) >> 1;
  const whole = width >> 1;
  const two = i32x4.splat(2);
  for (let y = 0; y < rows; y++) {
    const upper = from + ((2 * y * width) << 1);
    const lower = 2 * y + 1 < height ? upper + (width << 1) : upper;
    const out = onto + ((y * columns) << 1);
    let x = 0;
    for (; x + 4 <= whole; x += 4) {
      const at = x << 2;
      const pairs = i32x4.add(
        i32x4.extadd_pairwise_i16x8_u(v128.load(upper + at)),
        i32x4.extadd_pairwise_i16x8_u(v128.load(lower + at)),
      );
      const means = i32x4.shr_u(i32x4.add(pairs, two), 2);
      v128.store64_lane(out + (x << 1), i16x8.narrow_i32x4_u(means, means), 0);
    }
    for (; x < whole; x++) {
      const at = x << 2;
      const sum =
        <i32>load<u16>(upper + at) +
        <i32>load<u16>(upper + at + 2) +
        <i32>load<u16>(lower + at) +
        <i32>load<u16>(lower + at + 2);
      store<u16>(out + (x << 1), (sum + 2) >> 2);
    }
    if (whole < columns) {
      const last = (width - 1) << 1;
      const sum = <i32>load<u16>(upper + last) + <i32>load<u16>(lower + last);
      store<u16>(out + ((columns - 1) << 1), (sum + 1) >> 1);
    }
  }
}

/** Adds up three rows, the middle one twice, as 32-bit numbers. */
function sumDown(above: usize, row: usize, below: usize, down: usize, width: i32): void {
  let x = 0;
  for (; x + 8 <= width; x += 8) {
    const at = x << 1;
    const a = v128.load(above + at);
    const b = v128.load(row + at);
    const c = v128.load(below + at);
    const low = i32x4.add(
      i32x4.add(i32x4.extend_low_i16x8_u(a), i32x4.extend_low_i16x8_u(c)),
      i32x4.shl(i32x4.extend_low_i16x8_u(b), 1),
    );
    const high = i32x4.add(
      i32x4.add(i32x4.extend_high_i16x8_u(a), i32x4.extend_high_i16x8_u(c)),
      i32x4.shl(i32x4.extend_high_i16x8_u(b), 1),
    );
    v128.store(down + (x << 2), low);
    v128.store(down + (x << 2) + 16, high);
  }
  for (; x < width; x++) {
    const at = x << 1;
    const sum = <i32>load<u16>(above + at) + 2 * <i32>load<u16>(row + at) + <i32>load<u16>(below + at);
    store<i32>(down + (x << 2), sum);
  }
}

/** Three neighbours with the middle one twice, of four places. */
function threeAcross(at: usize): v128 {
  const sides = i32x4.add(v128.load(at - 4), v128.load(at + 4));
  const sum = i32x4.add(sides, i32x4.shl(v128.load(at), 1));
  return i32x4.shr_u(i32x4.add(sum, i32x4.splat(8)), 4);
}

/** Blurs by the binomial of three, across and down. `down` has room for `width + 2` numbers of 32 bit. */
export function smooth(from: usize, onto: usize, width: i32, height: i32, down: usize): void {
  const stride = width << 1;
  const first = down + 4;
  const last = first + ((width - 1) << 2);
  for (let y = 0; y < height; y++) {
    const row = from + y * stride;
    sumDown(y > 0 ? row - stride : row, row, y < height - 1 ? row + stride : row, first, width);
    store<i32>(down, load<i32>(first));
    store<i32>(last + 4, load<i32>(last));
    const out = onto + y * stride;
    let x = 0;
    for (; x + 8 <= width; x += 8) {
      const at = first + (x << 2);
      v128.store(out + (x << 1), i16x8.narrow_i32x4_u(threeAcross(at), threeAcross(at + 16)));
    }
    for (; x < width; x++) {
      const at = first + (x << 2);
      const sum = load<i32>(at - 4) + 2 * load<i32>(at) + load<i32>(at + 4);
      store<u16>(out + (x << 1), (sum + 8) >> 4);
    }
  }
}
