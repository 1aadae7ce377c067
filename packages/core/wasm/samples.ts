// Samples of 8 and 16 bit as values and back, four and more at a time. All offsets are bytes, values 32-bit floats.

/** Samples of 8 bit as values of 0 to 1. */
export function fromBytes(from: usize, onto: usize, count: i32): void {
  const scale: f32 = 1 / 255;
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const wide = i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(from + i)));
    v128.store(onto + (i << 2), f32x4.mul(f32x4.convert_i32x4_u(wide), f32x4.splat(scale)));
  }
  for (; i < count; i++) store<f32>(onto + (i << 2), <f32>load<u8>(from + i) * scale);
}

/** Samples of 16 bit as values of 0 to 1. */
export function fromShorts(from: usize, onto: usize, count: i32): void {
  const scale: f32 = 1 / 65535;
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const wide = i32x4.extend_low_i16x8_u(v128.load64_zero(from + (i << 1)));
    v128.store(onto + (i << 2), f32x4.mul(f32x4.convert_i32x4_u(wide), f32x4.splat(scale)));
  }
  for (; i < count; i++) store<f32>(onto + (i << 2), <f32>load<u16>(from + (i << 1)) * scale);
}

/** Four values times a scale as the nearest whole numbers of 0 to `most`. */
function wholes(from: usize, scale: f32, most: f32): v128 {
  const value = f32x4.mul(v128.load(from), f32x4.splat(scale));
  const within = f32x4.min(f32x4.max(value, f32x4.splat(0)), f32x4.splat(most));
  return i32x4.trunc_sat_f32x4_u(f32x4.add(within, f32x4.splat(0.5)));
}

/** Values times a scale as the nearest samples of 8 bit. */
export function toBytes(from: usize, onto: usize, count: i32, scale: f32): void {
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    const at = from + (i << 2);
    const both = i16x8.narrow_i32x4_s(wholes(at, scale, 255), wholes(at + 16, scale, 255));
    v128.store64_lane(onto + i, i8x16.narrow_i16x8_u(both, both), 0);
  }
  for (; i < count; i++) {
    const value = min(max(load<f32>(from + (i << 2)) * scale, <f32>0), <f32>255);
    store<u8>(onto + i, <u8>(value + <f32>0.5));
  }
}

/** Values times a scale as the nearest samples of 16 bit. */
export function toShorts(from: usize, onto: usize, count: i32, scale: f32): void {
  let i = 0;
  for (; i + 8 <= count; i += 8) {
    const at = from + (i << 2);
    const both = i16x8.narrow_i32x4_u(wholes(at, scale, 65535), wholes(at + 16, scale, 65535));
    v128.store(onto + (i << 1), both);
  }
  for (; i < count; i++) {
    const value = min(max(load<f32>(from + (i << 2)) * scale, <f32>0), <f32>65535);
    store<u16>(onto + (i << 1), <u16>(value + <f32>0.5));
  }
}
