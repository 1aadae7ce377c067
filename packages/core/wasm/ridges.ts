// Crests of thin lines: listed, placed and put in order. All offsets are bytes; tables are columns of numbers.
import { ANGLE, COS, RECORD, SIN, STRENGTH, X, Y, isMarked, mark, numberUnder } from './crests';
import { DIGITS } from '../src/kernels/layout';

/** The size of what is nowhere the least 16-bit number. */
function sizeOf(values: v128): v128 {
  return i16x8.max_s(values, i16x8.sub_sat_s(i16x8.splat(0), values));
}

function bend(before: v128, here: v128, after: v128): v128 {
  return sizeOf(i16x8.add_sat_s(i16x8.sub(before, here), i16x8.sub(after, here)));
}

function bendAt(at: usize, step: usize): i32 {
  const twice = (<i32>load<u16>(at)) << 1;
  return abs(<i32>load<u16>(at - step) + <i32>load<u16>(at + step) - twice);
}

/**
 * Lists the pixels whose curvature across and down together reaches what their cell asks for.
 *
 * @param least a 32-bit number, at most 32,767, for each cell of `side` pixels, row after row of `columns`
 * @returns how many are listed
 */
export function listBent(
  data: usize,
  width: i32,
  height: i32,
  least: usize,
  side: i32,
  columns: i32,
  listed: usize,
): i32 {
  const stride = width << 1;
  let count = 0;
  for (let y = 1; y < height - 1; y++) {
    const cells = least + (((y / side) * columns) << 2);
    for (let x = 1; x < width - 1;) {
      const column = x / side;
      const end = min(width - 1, (column + 1) * side);
      const enough = load<i32>(cells + (column << 2));
      const wanted = i16x8.splat(<i16>enough);
      for (; x + 8 <= end; x += 8) {
        const i = y * width + x;
        const at = data + (i << 1);
        const here = v128.load(at);
        const most = i16x8.add_sat_s(
          bend(v128.load(at - 2), here, v128.load(at + 2)),
          bend(v128.load(at - stride), here, v128.load(at + stride)),
        );
        let mask = i16x8.bitmask(i16x8.ge_s(most, wanted));
        while (mask !== 0) {
          store<i32>(listed + (count << 2), i + ctz(mask));
          count++;
          mask &= mask - 1;
        }
      }
      for (; x < end; x++) {
        const i = y * width + x;
        const at = data + (i << 1);
        if (bendAt(at, 2) + bendAt(at, stride) < enough) continue;
        store<i32>(listed + (count << 2), i);
        count++;
      }
    }
  }
  return count;
}

/** A point must stand out from the usual curvature so many times. */
const LEAST_STRENGTH: f64 = 1.6;
/** Along a line there is at most so much of the curvature that there is across. */
const MOST_ALONG: f64 = 0.6;
/** The crest lies in the pixel itself, give or take. */
const INSIDE: f64 = 0.6;

/**
 * Of the pixels that are listed those on a crest: where the slope across the direction of greatest curvature vanishes
 * within the pixel (Steger 1998).
 *
 * @param usual a 32-bit float for each cell
 * @param at index of the pixel; `xs`, `ys` the crest in pixels; `records` see crests.ts; `under` the size of the strength of
 *   the point that the crest lies on, which is a neighbour's now and then, or 0
 * @param marks a bit for each pixel, 0, and eight bytes more: those that hold a point are set
 * @param before room for a 32-bit number for each 64 pixels and one more: how many points lie before them
 * @returns how many there are
 */
export function placeRidgePixels(
  listed: usize,
  bent: i32,
  data: usize,
  width: i32,
  height: i32,
  usual: usize,
  side: i32,
  columns: i32,
  at: usize,
  xs: usize,
  ys: usize,
  records: usize,
  under: usize,
  marks: usize,
  before: usize,
): i32 {
  const stride = width << 1;
  let count = 0;
  let y = 0;
  // They are listed row after row: dividing each would take longer than the rest.
  let row = 0;
  let cells = usual;
  for (let k = 0; k < bent; k++) {
    const i = load<i32>(listed + (k << 2));
    while (i - row >= width) {
      y++;
      row += width;
      cells = usual + (((y / side) * columns) << 2);
    }
    const x = i - row;
    const here = data + (i << 1);
    const middle = <f64>load<u16>(here);
    const west = <f64>load<u16>(here - 2);
    const east = <f64>load<u16>(here + 2);
    const north = <f64>load<u16>(here - stride);
    const south = <f64>load<u16>(here + stride);
    const xx = west + east - 2 * middle;
    const yy = north + south - 2 * middle;
    const falling = <f64>load<u16>(here + stride + 2) + <f64>load<u16>(here - stride - 2);
    const rising = <f64>load<u16>(here + stride - 2) + <f64>load<u16>(here - stride + 2);
    const xy = (falling - rising) / 4;
    const mean = (xx + yy) / 2;
    const half = (xx - yy) / 2;
    const apart = sqrt(half * half + xy * xy);
    const most = mean >= 0 ? mean + apart : mean - apart;
    const least = mean >= 0 ? mean - apart : mean + apart;
    const common = <f64>load<f32>(cells + ((x / side) << 2));
    if (abs(most) < LEAST_STRENGTH * common || abs(least) > MOST_ALONG * abs(most)) continue;
    // The direction of the greater curvature, across the line: of two forms of the eigenvector the longer one.
    const isAcross = mean >= 0 === half >= 0;
    const ex = isAcross ? most - yy : xy;
    const ey = isAcross ? xy : most - xx;
    let length = sqrt(ex * ex + ey * ey);
    if (length === 0) length = 1;
    const nx = ex / length;
    const ny = ey / length;
    const slope = ((east - west) * nx + (south - north) * ny) / 2;
    const off = -slope / most;
    if (abs(off * nx) > INSIDE || abs(off * ny) > INSIDE) continue;
    const px = <f32>(<f64>x + 0.5 + off * nx);
    const py = <f32>(<f64>y + 0.5 + off * ny);
    store<i32>(at + (count << 2), i);
    store<f32>(xs + (count << 2), px);
    store<f32>(ys + (count << 2), py);
    writePoint(records + <usize>count * RECORD, px, py, <f32>(most / common), nx, ny);
    mark(marks, i);
    count++;
  }
  countBefore(marks, before, width * height);
  for (let k = 0; k < count << 2; k += 4) {
    const place = <i32>load<f32>(ys + k) * width + <i32>load<f32>(xs + k);
    store<f32>(under + k, strengthUnder(records, marks, before, place));
  }
  return count;
}

/** Counts how many points lie before each 64 pixels. */
function countBefore(marks: usize, before: usize, pixels: i32): void {
  let sum = 0;
  for (let word = 0, words = (pixels + 63) >> 6; word < words; word++) {
    store<i32>(before + (word << 2), sum);
    sum += <i32>popcnt<u64>(load<u64>(marks + (word << 3)));
  }
}

/** The size of the strength of the point in a pixel; 0 where there is none. */
function strengthUnder(records: usize, marks: usize, before: usize, pixel: i32): f32 {
  if (!isMarked(marks, pixel)) return 0;
  return abs(load<f32>(records + <usize>numberUnder(marks, before, pixel) * RECORD, STRENGTH));
}

/** Writes a point: where it lies, how strong it is, and the unit vector across the line. */
function writePoint(record: usize, px: f32, py: f32, strength: f32, nx: f64, ny: f64): void {
  // Of the two arrows along the line the one that points down, or to the right.
  const arrow: f64 = nx > 0 || (nx === 0 && ny < 0) ? 1 : -1;
  store<f32>(record, px, X);
  store<f32>(record, py, Y);
  store<f32>(record, strength, STRENGTH);
  store<f32>(record, <f32>Math.atan2(arrow * nx, -arrow * ny), ANGLE);
  store<f64>(record, -arrow * ny, COS);
  store<f64>(record, arrow * nx, SIN);
}

/** Bits of a number that are sorted by at a time; they have {@link DIGITS} values. */
const DIGIT: u64 = 11;
/** The bits of the float above all others. */
const INFINITE_BITS: u64 = 0x7f800000;

/** Puts numbers of 64 bit in order by some of their bits; those that are alike stay as they are. */
function sortBy(shift: u64, from: usize, onto: usize, count: i32, counts: usize): void {
  memory.fill(counts, 0, DIGITS << 2);
  for (let k = 0; k < count; k++) {
    const place = counts + ((<usize>((load<u64>(from + ((<usize>k) << 3)) >> shift) & (DIGITS - 1))) << 2);
    store<i32>(place, load<i32>(place) + 1);
  }
  let sum = 0;
  for (let digit = 0; digit < DIGITS; digit++) {
    const place = counts + ((<usize>digit) << 2);
    const own = load<i32>(place);
    store<i32>(place, sum);
    sum += own;
  }
  for (let k = 0; k < count; k++) {
    const key = load<u64>(from + ((<usize>k) << 3));
    const place = counts + ((<usize>((key >> shift) & (DIGITS - 1))) << 2);
    const rank = load<i32>(place);
    store<i32>(place, rank + 1);
    store<u64>(onto + ((<usize>rank) << 3), key);
  }
}

/**
 * Numbers of the points that stand out so many times, the strongest first; of equals the one that comes first.
 *
 * @param keys room for a number of 64 bit for each point, `others` for as many
 * @param counts room for 2,048 numbers of 32 bit
 * @param seeds room for a number of 32 bit for each point
 * @returns how many there are
 */
export function seedCrests(
  records: usize,
  count: i32,
  least: f32,
  keys: usize,
  others: usize,
  counts: usize,
  seeds: usize,
): i32 {
  let found = 0;
  for (let k = 0; k < count; k++) {
    const size = abs(load<f32>(records + <usize>k * RECORD, STRENGTH));
    if (size < least) continue;
    // As whole numbers floats keep their order. The upper half is what is sorted by, 31 bits; the lower the point.
    const key = ((INFINITE_BITS - <u64>reinterpret<u32>(size)) << 32) | (<u64>k);
    store<u64>(keys + ((<usize>found) << 3), key);
    found++;
  }
  sortBy(32, keys, others, found, counts);
  sortBy(32 + DIGIT, others, keys, found, counts);
  sortBy(32 + 2 * DIGIT, keys, others, found, counts);
  for (let k = 0; k < found; k++)
    store<i32>(seeds + ((<usize>k) << 2), <i32>load<u64>(others + ((<usize>k) << 3)));
  return found;
}
