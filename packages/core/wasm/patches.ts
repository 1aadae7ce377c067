// Laying new values on samples. All places are bytes; samples lie without gaps.

/** Where something covers, the sample with so much of the value in it, as the nearest code; elsewhere the sample. */
function laid(old: v128, value: v128, cover: v128, top: v128): v128 {
  const mixed = f32x4.add(old, f32x4.mul(cover, f32x4.sub(value, old)));
  const held = f32x4.min(top, f32x4.max(f32x4.splat(0), mixed));
  const code = i32x4.trunc_sat_f32x4_s(f32x4.add(held, f32x4.splat(0.5)));
  return v128.bitselect(code, i32x4.trunc_sat_f32x4_s(old), f32x4.gt(cover, f32x4.splat(0)));
}

/**
 * Lays values on samples of 8 bit, in place. Up to three behind the last are written too.
 *
 * @param values 32-bit floats in codes, `cover` how much of each is taken, 0 to 1
 */
export function layBytes(samples: usize, values: usize, cover: usize, count: i32): void {
  const top = f32x4.splat(255);
  for (let i = 0; i < count; i += 4) {
    const at = samples + i;
    const old = f32x4.convert_i32x4_u(
      i32x4.extend_low_i16x8_u(i16x8.extend_low_i8x16_u(v128.load32_zero(at))),
    );
    const codes = laid(old, v128.load(values + (i << 2)), v128.load(cover + (i << 2)), top);
    const short = i16x8.narrow_i32x4_u(codes, codes);
    v128.store32_lane(at, i8x16.narrow_i16x8_u(short, short), 0);
  }
}

/** The same on samples of 16 bit. */
export function layShorts(samples: usize, values: usize, cover: usize, count: i32): void {
  const top = f32x4.splat(65535);
  for (let i = 0; i < count; i += 4) {
    const at = samples + (i << 1);
    const old = f32x4.convert_i32x4_u(i32x4.extend_low_i16x8_u(v128.load64_zero(at)));
    const codes = laid(old, v128.load(values + (i << 2)), v128.load(cover + (i << 2)), top);
    v128.store64_lane(at, i16x8.narrow_i32x4_u(codes, codes), 0);
  }
}
