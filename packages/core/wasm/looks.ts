// What a small net is shown of a place. All offsets are bytes, values 32-bit floats, squares a multiple of four large.
import { logarithm } from './logarithm';

function within(at: i32, count: i32): i32 {
  return max(0, min(count - 1, at));
}

/** Bytes of what is known of a column: where its neighbours on either side lie, and how far it is on the way between. */
const COLUMN: usize = 12;

/**
 * Samples a plane at the places of a square, straight between its own; beyond the outermost the nearest counts.
 *
 * @param x of the first place, in samples of the plane, whose first lies at 0; `y` likewise
 * @param step from one place to the next
 * @param work twelve bytes for each column
 */
export function sampleSquare(
  plane: usize,
  width: i32,
  height: i32,
  x: f32,
  y: f32,
  step: f32,
  side: i32,
  work: usize,
  onto: usize,
): void {
  const end = work + side * COLUMN;
  let u = x;
  for (let at = work; at < end; at += COLUMN) {
    const before = <i32>floor(u);
    store<i32>(at, within(before, width) << 2);
    store<i32>(at, within(before + 1, width) << 2, 4);
    store<f32>(at, u - floor(u), 8);
    u += step;
  }
  let out = onto;
  for (let row = 0; row < side; row++) {
    const v = y + <f32>row * step;
    const above = <i32>floor(v);
    const down = v - floor(v);
    const upper = plane + ((within(above, height) * width) << 2);
    const lower = plane + ((within(above + 1, height) * width) << 2);
    for (let at = work; at < end; at += COLUMN) {
      const left: usize = load<i32>(at);
      const right: usize = load<i32>(at, 4);
      const along = load<f32>(at, 8);
      const first = load<f32>(upper + left) * (1 - along) + load<f32>(upper + right) * along;
      const second = load<f32>(lower + left) * (1 - along) + load<f32>(lower + right) * along;
      store<f32>(out, first * (1 - down) + second * down);
      out += 4;
    }
  }
}

/** The natural logarithms of lights, each a little brighter; in place. */
export function logarithms(lights: usize, count: i32, brighter: f32): void {
  const end = lights + ((<usize>count) << 2);
  for (let at = lights; at < end; at += 16)
    v128.store(at, logarithm(f32x4.add(v128.load(at), f32x4.splat(brighter))));
}

/** The mean of planes that lie one behind the other. */
export function meanOfPlanes(planes: usize, channels: i32, count: i32, onto: usize): void {
  const plane = (<usize>count) << 2;
  const share = f32x4.splat(<f32>1 / <f32>channels);
  for (let i: usize = 0; i < plane; i += 16) {
    let sum = v128.load(planes + i);
    for (let c = 1; c < channels; c++) sum = f32x4.add(sum, v128.load(planes + c * plane + i));
    v128.store(onto + i, f32x4.mul(sum, share));
  }
}

/** How far the colours of four places depart from one another: the standard deviation, 0 of a single one. */
function spreadOf(planes: usize, channels: i32, plane: usize, usual: usize): v128 {
  if (channels < 2) return f32x4.splat(0);
  let sum = f32x4.splat(0);
  for (let c = 0; c < channels; c++) sum = f32x4.add(sum, departed(planes + c * plane, usual + (c << 2)));
  const mean = f32x4.mul(sum, f32x4.splat(<f32>1 / <f32>channels));
  let square = f32x4.splat(0);
  for (let c = 0; c < channels; c++) {
    const away = f32x4.sub(departed(planes + c * plane, usual + (c << 2)), mean);
    square = f32x4.add(square, f32x4.mul(away, away));
  }
  return f32x4.sqrt(f32x4.mul(square, f32x4.splat(<f32>1 / <f32>(channels - 1))));
}

function departed(values: usize, usual: usize): v128 {
  return f32x4.sub(v128.load(values), v128.load_splat<f32>(usual));
}

/** Bounded to 2 on either side, so that nothing is farther off than what was trained on. */
function bounded(values: v128): v128 {
  const one = f32x4.splat(1);
  return f32x4.div(f32x4.add(values, values), f32x4.add(one, f32x4.abs(values)));
}

/**
 * Lays out what a net is shown, three values a place: departures from what is usual, the same against how far those vary,
 * and how far colours depart from one another.
 *
 * @param planes logarithms of light, one behind the other, `usual` what is usual of each
 * @param grey their mean, `by` what is usual of it and what the three values are to be multiplied by
 */
export function layLook(
  planes: usize,
  channels: i32,
  count: i32,
  usual: usize,
  grey: usize,
  by: usize,
  onto: usize,
): void {
  const plane = (<usize>count) << 2;
  let out = onto;
  for (let i: usize = 0; i < plane; i += 16) {
    const away = departed(grey + i, by);
    const departure = bounded(f32x4.mul(away, v128.load_splat<f32>(by, 4)));
    const varied = bounded(f32x4.mul(away, v128.load_splat<f32>(by, 8)));
    const spread = spreadOf(planes + i, channels, plane, usual);
    const colours = bounded(f32x4.mul(spread, v128.load_splat<f32>(by, 12)));
    // Three by three by four, place after place.
    const low = v128.shuffle<f32>(departure, varied, 0, 4, 1, 5);
    const high = v128.shuffle<f32>(departure, varied, 2, 6, 3, 7);
    v128.store64_lane(out, low, 0);
    v128.store32_lane(out, colours, 0, 8);
    v128.store64_lane(out, low, 1, 12);
    v128.store32_lane(out, colours, 1, 20);
    v128.store64_lane(out, high, 0, 24);
    v128.store32_lane(out, colours, 2, 32);
    v128.store64_lane(out, high, 1, 36);
    v128.store32_lane(out, colours, 3, 44);
    out += 48;
  }
}
