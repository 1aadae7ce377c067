// Soft discs held against the steps between neighbours. All offsets are bytes.
import { Explained, Template } from '../src/kernels/layout';
import { sumOf } from './lanes';

/** Rounds of reweighting; the depth hardly moves after them. */
const ROUNDS: i32 = 2;
/** A step that every picture has, in units of a plane. */
const LEAST_STEP: f32 = 8;

function write(out: usize, field: Explained, value: f64): void {
  store<f64>(out + ((<usize>field) << 3), value);
}

/** Four steps of the plane, where the template has any: deeper is darker, a step of the disc goes up where the plane goes down. */
function seenAt(at: usize, first: usize, second: usize, steps: v128): v128 {
  const from = i32x4.extend_low_i16x8_u(v128.load64_zero(at + load<i32>(first)));
  const to = i32x4.extend_low_i16x8_u(v128.load64_zero(at + load<i32>(second)));
  return v128.and(f32x4.convert_i32x4_s(i32x4.sub(to, from)), f32x4.ne(steps, f32x4.splat(0)));
}

/** How the steps at a place go together with a disc's, -1 to 1. */
function correlation(at: usize, template: usize): f64 {
  const count = load<i32>(template, Template.COUNT);
  const first = <usize>load<u32>(template, Template.FIRST);
  const second = <usize>load<u32>(template, Template.SECOND);
  const steps = <usize>load<u32>(template, Template.STEPS);
  let along = f32x4.splat(0);
  let squares = f32x4.splat(0);
  for (let k = 0; k < count << 2; k += 4) {
    const step = v128.load(steps + (k << 2));
    const seen = seenAt(at, first + k, second + k, step);
    along = f32x4.add(along, f32x4.mul(seen, step));
    squares = f32x4.add(squares, f32x4.mul(seen, seen));
  }
  return sumOf(along) / sqrt(load<f64>(template, Template.ENERGY) * sumOf(squares) + 1);
}

// What `explain` found.
let depth: f64 = 0;
let before: f64 = 0;
let after: f64 = 0;
let together: f64 = 0;

/** The depth of one disc that, undone, leaves the least variation: iteratively reweighted least squares. */
function explain(at: usize, template: usize, seen: usize): void {
  const count = load<i32>(template, Template.COUNT);
  const first = <usize>load<u32>(template, Template.FIRST);
  const second = <usize>load<u32>(template, Template.SECOND);
  const steps = <usize>load<u32>(template, Template.STEPS);
  const energy = load<f64>(template, Template.ENERGY);
  let along = f32x4.splat(0);
  let squares = f32x4.splat(0);
  let sizes = f32x4.splat(0);
  for (let k = 0; k < count << 2; k += 4) {
    const step = v128.load(steps + (k << 2));
    const value = seenAt(at, first + k, second + k, step);
    v128.store(seen + (k << 2), value);
    along = f32x4.add(along, f32x4.mul(value, step));
    squares = f32x4.add(squares, f32x4.mul(value, value));
    sizes = f32x4.add(sizes, f32x4.abs(value));
  }
  before = sumOf(sizes);
  together = sumOf(along) / sqrt(energy * sumOf(squares) + 1);
  depth = sumOf(along) / energy;
  const least = f32x4.splat(LEAST_STEP);
  for (let round = 0; round < ROUNDS; round++) {
    const deep = f32x4.splat(<f32>depth);
    let up = f32x4.splat(0);
    let down = f32x4.splat(0);
    for (let k = 0; k < count << 4; k += 16) {
      const step = v128.load(steps + k);
      const value = v128.load(seen + k);
      const left = f32x4.abs(f32x4.sub(value, f32x4.mul(deep, step)));
      const weight = f32x4.div(step, f32x4.add(left, least));
      up = f32x4.add(up, f32x4.mul(weight, value));
      down = f32x4.add(down, f32x4.mul(weight, step));
    }
    depth = sumOf(up) / sumOf(down);
  }
  const deep = f32x4.splat(<f32>depth);
  let rest = f32x4.splat(0);
  for (let k = 0; k < count << 4; k += 16)
    rest = f32x4.add(rest, f32x4.abs(f32x4.sub(v128.load(seen + k), f32x4.mul(deep, v128.load(steps + k)))));
  after = sumOf(rest);
}

/** Where a parabola through three neighbours has its top, from the middle one, at most half a step away. */
function topOf(first: f64, here: f64, last: f64): f64 {
  const bend = first - 2 * here + last;
  return bend < 0 ? max(-0.5, min(0.5, (0.5 * (first - last)) / bend)) : 0;
}

/**
 * The disc that explains each of many places best: the radius by how well the steps go together with its own, then the
 * softness by how much variation is taken away; and how far its centre lies from the middle of the pixel.
 *
 * @param centres index of the pixel of each place, `signs` 1 where a dark disc is looked for and -1 for a bright one
 * @param templates heads ({@link Template}), row after row of `softnesses` for each radius
 * @param seen room for four 32-bit floats for each run of the largest template
 * @param found for each place what {@link Explained} says
 */
export function explainPlaces(
  data: usize,
  width: i32,
  centres: usize,
  signs: usize,
  places: i32,
  templates: usize,
  radii: i32,
  softnesses: i32,
  seen: usize,
  found: usize,
): void {
  for (let p = 0; p < places; p++) {
    const at = data + (load<i32>(centres + (p << 2)) << 1);
    const sign = <f64>load<i32>(signs + (p << 2));
    let row = 0;
    let most = -f64.MAX_VALUE;
    for (let r = 0; r < radii; r++) {
      const fit = sign * correlation(at, templates + (r * softnesses + (softnesses >> 1)) * Template.BYTES);
      if (fit <= most) continue;
      row = r;
      most = fit;
    }
    const out = found + <usize>p * ((<usize>Explained.NUMBERS) << 3);
    let mostGain = -f64.MAX_VALUE;
    for (let s = 0; s < softnesses; s++) {
      const number = row * softnesses + s;
      const template = templates + number * Template.BYTES;
      explain(at, template, seen);
      // A softer disc has more steps: what counts is how unlikely so much is by chance, which grows with their root.
      const gain = sign * depth > 0 ? (before - after) / load<f64>(template, Template.ROOT) : <f64>-1;
      if (gain <= mostGain) continue;
      mostGain = gain;
      write(out, Explained.TEMPLATE, <f64>number);
      write(out, Explained.DEPTH, depth);
      write(out, Explained.BEFORE, before);
      write(out, Explained.AFTER, after);
      write(out, Explained.CORRELATION, together);
    }
    const best = templates + <usize>load<f64>(out) * Template.BYTES;
    const here = sign * load<f64>(out + ((<usize>Explained.CORRELATION) << 3));
    const stride: usize = width << 1;
    write(
      out,
      Explained.OFF_X,
      topOf(sign * correlation(at - 2, best), here, sign * correlation(at + 2, best)),
    );
    write(
      out,
      Explained.OFF_Y,
      topOf(sign * correlation(at - stride, best), here, sign * correlation(at + stride, best)),
    );
  }
}
