// Values through tables, four at a time. All offsets are bytes, values 32-bit floats. Up to three values behind the last are
// written too.

/** The entries of a table of 32-bit numbers at four places. */
function fromTable(table: usize, at: v128): v128 {
  let values = v128.load32_zero(table + (i32x4.extract_lane(at, 0) << 2));
  values = v128.load32_lane(table + (i32x4.extract_lane(at, 1) << 2), values, 1);
  values = v128.load32_lane(table + (i32x4.extract_lane(at, 2) << 2), values, 2);
  return v128.load32_lane(table + (i32x4.extract_lane(at, 3) << 2), values, 3);
}

function bounded(values: v128): v128 {
  return f32x4.min(f32x4.max(values, f32x4.splat(0)), f32x4.splat(1));
}

/** Where values of 0 to 1 stand in a table of `top + 1` even steps. */
function placesOf(values: v128, top: f32): v128 {
  const place = f32x4.add(f32x4.mul(bounded(values), f32x4.splat(top)), f32x4.splat(0.5));
  return i32x4.trunc_sat_f32x4_u(place);
}

/** Every value of 0 to 1 as a table has it, in `top + 1` even steps; in place. */
export function lookUp(values: usize, count: i32, table: usize, top: f32): void {
  const end = values + ((<usize>count) << 2);
  for (let at = values; at < end; at += 16) v128.store(at, fromTable(table, placesOf(v128.load(at), top)));
}

/** Lights of 0 to 1 as the codes they are written with; `codes` holds `steps + 2` of them, evenly over the root of light. */
function encoded(lights: v128, codes: usize, steps: f32): v128 {
  const place = f32x4.mul(f32x4.sqrt(bounded(lights)), f32x4.splat(steps));
  const index = i32x4.trunc_sat_f32x4_u(place);
  // Two codes that follow one another are read at once.
  let first = v128.load64_zero(codes + (i32x4.extract_lane(index, 0) << 2));
  first = v128.load64_lane(codes + (i32x4.extract_lane(index, 1) << 2), first, 1);
  let second = v128.load64_zero(codes + (i32x4.extract_lane(index, 2) << 2));
  second = v128.load64_lane(codes + (i32x4.extract_lane(index, 3) << 2), second, 1);
  const before = v128.shuffle<f32>(first, second, 0, 2, 4, 6);
  const after = v128.shuffle<f32>(first, second, 1, 3, 5, 7);
  const way = f32x4.sub(place, f32x4.convert_i32x4_u(index));
  return f32x4.add(before, f32x4.mul(way, f32x4.sub(after, before)));
}

/** Linear light in encoded values; in place. */
export function encode(values: usize, count: i32, codes: usize, steps: f32): void {
  const end = values + ((<usize>count) << 2);
  for (let at = values; at < end; at += 16) v128.store(at, encoded(v128.load(at), codes, steps));
}

/**
 * Gains on red, green and blue in linear light, then saturation about the luminance; in place.
 *
 * `lights` and `codes` hold tables of `top + 1` and of `steps + 2` entries, one for each channel; behind each stands how
 * many bytes lie from one to the next. `by` holds three gains, three weights of luminance and the saturation.
 */
export function balance(
  red: usize,
  green: usize,
  blue: usize,
  count: i32,
  lights: usize,
  light: i32,
  top: f32,
  codes: usize,
  code: i32,
  steps: f32,
  by: usize,
): void {
  const saturation = v128.load_splat<f32>(by + 24);
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const reds = gained(red + i, lights, top, by);
    const greens = gained(green + i, lights + light, top, by + 4);
    const blues = gained(blue + i, lights + 2 * light, top, by + 8);
    const first = f32x4.mul(v128.load_splat<f32>(by + 12), reds);
    const second = f32x4.mul(v128.load_splat<f32>(by + 16), greens);
    const third = f32x4.mul(v128.load_splat<f32>(by + 20), blues);
    const luminance = f32x4.add(f32x4.add(first, second), third);
    v128.store(red + i, encoded(saturated(reds, luminance, saturation), codes, steps));
    v128.store(green + i, encoded(saturated(greens, luminance, saturation), codes + code, steps));
    v128.store(blue + i, encoded(saturated(blues, luminance, saturation), codes + 2 * code, steps));
  }
}

/** The light of four values, times a gain. */
function gained(values: usize, table: usize, top: f32, gain: usize): v128 {
  return f32x4.mul(v128.load_splat<f32>(gain), fromTable(table, placesOf(v128.load(values), top)));
}

function saturated(light: v128, luminance: v128, saturation: v128): v128 {
  return f32x4.add(luminance, f32x4.mul(saturation, f32x4.sub(light, luminance)));
}
