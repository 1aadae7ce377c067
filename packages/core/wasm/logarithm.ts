/** The natural logarithm of four positive numbers. (Moshier, Cephes library, logf.) */
export function logarithm(x: v128): v128 {
  // Mantissa from the square root of a half up to that of two.
  const bits = i32x4.sub(x, i32x4.splat(0x3f3504f3));
  const exponent = f32x4.convert_i32x4_s(i32x4.shr_s(bits, 23));
  const mantissa = i32x4.add(v128.and(bits, i32x4.splat(0x007fffff)), i32x4.splat(0x3f3504f3));
  const m = f32x4.sub(mantissa, f32x4.splat(1));
  const z = f32x4.mul(m, m);
  let p = f32x4.add(f32x4.mul(f32x4.splat(7.0376836292e-2), m), f32x4.splat(-1.151461031e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(1.167699874e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-1.2420140846e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(1.4249322787e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-1.6668057665e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(2.0000714765e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(-2.4999993993e-1));
  p = f32x4.add(f32x4.mul(p, m), f32x4.splat(3.3333331174e-1));
  const rest = f32x4.sub(f32x4.mul(f32x4.mul(p, z), m), f32x4.mul(z, f32x4.splat(0.5)));
  const small = f32x4.mul(exponent, f32x4.splat(-2.1219444e-4));
  return f32x4.add(f32x4.add(f32x4.add(rest, small), m), f32x4.mul(exponent, f32x4.splat(0.693359375)));
}
