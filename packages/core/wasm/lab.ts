// Light and CIE L*a*b*, four pixels at a time. All places are bytes; planes are 32-bit floats in place, `count` of them,
// and up to three behind the last are written too.

/** Light of the primaries of sRGB as CIE XYZ (IEC 61966-2-1:1999, four decimals), over that of white. */
const XR: f32 = 0.4124 / 0.9505;
const XG: f32 = 0.3576 / 0.9505;
const XB: f32 = 0.1805 / 0.9505;
const YR: f32 = 0.2126;
const YG: f32 = 0.7152;
const YB: f32 = 0.0722;
const ZR: f32 = 0.0193 / 1.089;
const ZG: f32 = 0.1192 / 1.089;
const ZB: f32 = 0.9505 / 1.089;

/** Where the cube root gives way to a straight line, and the slope of that line. (CIE 15:2004, 8.2.1.1.) */
const KNEE: f32 = 6.0 / 29;
const KNEE_LIGHT: f32 = KNEE * KNEE * KNEE;
const SLOPE: f32 = 3 * KNEE * KNEE;
const FOOT: f32 = 4.0 / 29;

/** The cube root of four positive numbers: a first guess from the exponent, then Halley's method twice. */
function cubeRoot(x: v128): v128 {
  const third = f32x4.mul(f32x4.convert_i32x4_s(x), f32x4.splat(<f32>(1.0 / 3)));
  let y = i32x4.add(i32x4.trunc_sat_f32x4_s(third), i32x4.splat(709921077));
  for (let round = 0; round < 2; round++) {
    const cube = f32x4.mul(f32x4.mul(y, y), y);
    const up = f32x4.add(cube, f32x4.add(x, x));
    const down = f32x4.add(f32x4.add(cube, cube), x);
    y = f32x4.mul(y, f32x4.div(up, down));
  }
  return y;
}

function compress(t: v128): v128 {
  const straight = f32x4.add(f32x4.div(t, f32x4.splat(SLOPE)), f32x4.splat(FOOT));
  const isBright = f32x4.gt(t, f32x4.splat(KNEE_LIGHT));
  return v128.bitselect(cubeRoot(f32x4.max(t, f32x4.splat(KNEE_LIGHT))), straight, isBright);
}

function expand(f: v128): v128 {
  const straight = f32x4.mul(f32x4.splat(SLOPE), f32x4.sub(f, f32x4.splat(FOOT)));
  return v128.bitselect(f32x4.mul(f32x4.mul(f, f), f), straight, f32x4.gt(f, f32x4.splat(KNEE)));
}

function sum(r: v128, g: v128, b: v128, ofR: f32, ofG: f32, ofB: f32): v128 {
  return f32x4.add(
    f32x4.add(f32x4.mul(f32x4.splat(ofR), r), f32x4.mul(f32x4.splat(ofG), g)),
    f32x4.mul(f32x4.splat(ofB), b),
  );
}

/** Light to lightness 0 to 100, a and b. */
export function toLab(red: usize, green: usize, blue: usize, count: i32): void {
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const r = v128.load(red + i);
    const g = v128.load(green + i);
    const b = v128.load(blue + i);
    const fx = compress(sum(r, g, b, XR, XG, XB));
    const fy = compress(sum(r, g, b, YR, YG, YB));
    const fz = compress(sum(r, g, b, ZR, ZG, ZB));
    v128.store(red + i, f32x4.sub(f32x4.mul(f32x4.splat(116), fy), f32x4.splat(16)));
    v128.store(green + i, f32x4.mul(f32x4.splat(500), f32x4.sub(fx, fy)));
    v128.store(blue + i, f32x4.mul(f32x4.splat(200), f32x4.sub(fy, fz)));
  }
}

/** Lightness, a and b to light. @param matrix nine 32-bit floats: light of X, Y and Z over white, row after row */
export function fromLab(lightness: usize, as: usize, bs: usize, count: i32, matrix: usize): void {
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const fy = f32x4.mul(f32x4.add(v128.load(lightness + i), f32x4.splat(16)), f32x4.splat(<f32>(1.0 / 116)));
    const fx = f32x4.add(fy, f32x4.mul(v128.load(as + i), f32x4.splat(<f32>(1.0 / 500))));
    const fz = f32x4.sub(fy, f32x4.mul(v128.load(bs + i), f32x4.splat(<f32>(1.0 / 200))));
    const x = expand(fx);
    const y = expand(fy);
    const z = expand(fz);
    v128.store(lightness + i, sum(x, y, z, load<f32>(matrix), load<f32>(matrix, 4), load<f32>(matrix, 8)));
    v128.store(as + i, sum(x, y, z, load<f32>(matrix, 12), load<f32>(matrix, 16), load<f32>(matrix, 20)));
    v128.store(bs + i, sum(x, y, z, load<f32>(matrix, 24), load<f32>(matrix, 28), load<f32>(matrix, 32)));
  }
}

/** A smooth step from 0 to 1. */
function smooth(value: v128, from: f32, to: f32): v128 {
  const share = f32x4.mul(f32x4.sub(value, f32x4.splat(from)), f32x4.splat(1 / (to - from)));
  const t = f32x4.min(f32x4.splat(1), f32x4.max(f32x4.splat(0), share));
  return f32x4.mul(f32x4.mul(t, t), f32x4.sub(f32x4.splat(3), f32x4.add(t, t)));
}

/** Two to the power of four numbers: the whole part as exponent, the rest by its series. */
function powerOfTwo(x: v128): v128 {
  const whole = f32x4.nearest(x);
  const rest = f32x4.mul(f32x4.sub(x, whole), f32x4.splat(0.6931471805599453));
  let p = f32x4.splat(<f32>(1.0 / 5040));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(<f32>(1.0 / 720)));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(<f32>(1.0 / 120)));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(<f32>(1.0 / 24)));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(<f32>(1.0 / 6)));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(0.5));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(1));
  p = f32x4.add(f32x4.mul(p, rest), f32x4.splat(1));
  const exponent = i32x4.shl(i32x4.add(i32x4.trunc_sat_f32x4_s(whole), i32x4.splat(127)), 23);
  return f32x4.mul(p, exponent);
}

/**
 * Exposes light by so many stops, each pixel by how much its lightness belongs to a range.
 *
 * @param range 0 all, 1 shadows, 2 midtones, 3 highlights: smooth hills that add up to 1 everywhere
 */
export function expose(red: usize, green: usize, blue: usize, count: i32, stops: f32, range: i32): void {
  const end = (<usize>count) << 2;
  const one = f32x4.splat(1);
  for (let i: usize = 0; i < end; i += 16) {
    const r = v128.load(red + i);
    const g = v128.load(green + i);
    const b = v128.load(blue + i);
    let weight = one;
    if (range > 0) {
      const fy = compress(sum(r, g, b, YR, YG, YB));
      const lightness = f32x4.sub(f32x4.mul(f32x4.splat(1.16), fy), f32x4.splat(0.16));
      const shadows = f32x4.sub(one, smooth(lightness, 0.15, 0.5));
      const highlights = smooth(lightness, 0.5, 0.85);
      if (range === 1) weight = shadows;
      else if (range === 2) weight = f32x4.sub(f32x4.sub(one, shadows), highlights);
      else weight = highlights;
    }
    const factor = powerOfTwo(f32x4.mul(f32x4.splat(stops), weight));
    v128.store(red + i, f32x4.mul(r, factor));
    v128.store(green + i, f32x4.mul(g, factor));
    v128.store(blue + i, f32x4.mul(b, factor));
  }
}

/**
 * Moves lightness, a and b: lightness by a factor and a sum, and by what a plane adds; a and b turned, and by a sum each.
 *
 * @param added a plane that is added to lightness; 0 where there is none
 * @param by 32-bit floats: factor and sum of lightness; four of a matrix for a and b, row after row; sums of a and of b
 */
export function moveLab(lightness: usize, as: usize, bs: usize, count: i32, added: usize, by: usize): void {
  const end = (<usize>count) << 2;
  const zero = f32x4.splat(0);
  for (let i: usize = 0; i < end; i += 16) {
    const a = v128.load(as + i);
    const b = v128.load(bs + i);
    const scaled = f32x4.mul(v128.load32_splat(by), v128.load(lightness + i));
    let raised = f32x4.add(scaled, v128.load32_splat(by, 4));
    if (added !== 0) raised = f32x4.add(raised, v128.load(added + i));
    const newA = f32x4.add(f32x4.mul(v128.load32_splat(by, 8), a), f32x4.mul(v128.load32_splat(by, 12), b));
    const newB = f32x4.add(f32x4.mul(v128.load32_splat(by, 16), a), f32x4.mul(v128.load32_splat(by, 20), b));
    v128.store(lightness + i, f32x4.max(zero, raised));
    v128.store(as + i, f32x4.add(newA, v128.load32_splat(by, 24)));
    v128.store(bs + i, f32x4.add(newB, v128.load32_splat(by, 28)));
  }
}
