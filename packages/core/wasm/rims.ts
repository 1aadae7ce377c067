// What stands out all around: rings against their core, and rims of discs. All offsets are bytes, samples are 16-bit
// numbers up to 32,767.
import { DIRECTIONS } from '../src/kernels/layout';

function pair(at: usize, step: usize, core: v128): v128 {
  return i16x8.add_sat_s(i16x8.sub(v128.load(at - step), core), i16x8.sub(v128.load(at + step), core));
}

/** What eight places answer. */
const answered: usize = memory.data(16);

/**
 * The ring-against-core test: of four pairs of opposite points the weakest contrast with the core where all agree, in
 * twice the units of the plane.
 *
 * @param straight how far the points lie from the core across and down, `slanted` on both sides of a slanted pair; pixels
 * @param least what counts, a 32-bit number of at most 32,767 for each cell of `side` pixels, row after row of `columns`
 * @param map 16-bit numbers of the plane's size, 0
 * @param places where one is not 0, in order
 * @returns how many there are
 */
export function ringContrast(
  data: usize,
  width: i32,
  height: i32,
  straight: i32,
  slanted: i32,
  least: usize,
  side: i32,
  columns: i32,
  map: usize,
  places: usize,
): i32 {
  const across: usize = straight << 1;
  const down: usize = (straight * width) << 1;
  const falling: usize = (slanted * width + slanted) << 1;
  const rising: usize = (slanted * width - slanted) << 1;
  let count = 0;
  for (let y = straight; y < height - straight; y++) {
    const cells = least + (((y / side) * columns) << 2);
    for (let x = straight; x < width - straight;) {
      const column = x / side;
      const end = min(width - straight, (column + 1) * side);
      const wanted = load<i32>(cells + (column << 2));
      const enough = i16x8.splat(<i16>wanted);
      const little = i16x8.splat(<i16>-wanted);
      for (; x < end; x += 8) {
        const i = y * width + x;
        const at = data + (i << 1);
        const core = v128.load(at);
        const a = pair(at, across, core);
        const b = pair(at, down, core);
        if (
          !v128.any_true(
            v128.or(i16x8.ge_s(i16x8.min_s(a, b), enough), i16x8.le_s(i16x8.max_s(a, b), little)),
          )
        )
          continue;
        const c = pair(at, falling, core);
        const d = pair(at, rising, core);
        const lowest = i16x8.min_s(i16x8.min_s(a, b), i16x8.min_s(c, d));
        const highest = i16x8.max_s(i16x8.max_s(a, b), i16x8.max_s(c, d));
        const isDark = i16x8.ge_s(lowest, enough);
        let mask = i16x8.bitmask(v128.or(isDark, i16x8.le_s(highest, little)));
        // What lies beyond the cell's last column is asked for by the next one.
        mask &= 0xff >>> (8 - min(8, end - x));
        if (mask === 0) continue;
        const answers = v128.bitselect(lowest, highest, isDark);
        v128.store(answered, answers);
        while (mask !== 0) {
          const k = ctz(mask);
          mask &= mask - 1;
          store<i16>(map + ((i + k) << 1), load<i16>(answered + (k << 1)));
          store<i32>(places + (count << 2), i + k);
          count++;
        }
      }
      x = end;
    }
  }
  return count;
}

/** Lays the even and the odd columns of a plane into planes of their own, each `(width + 1) >> 1` wide. */
export function splitColumns(from: usize, even: usize, odd: usize, width: i32, height: i32): void {
  const half = (width + 1) >> 1;
  for (let y = 0; y < height; y++) {
    const row = from + ((y * width) << 1);
    const out = (y * half) << 1;
    let x = 0;
    for (; x + 8 <= width >> 1; x += 8) {
      const low = v128.load(row + (x << 2));
      const high = v128.load(row + (x << 2) + 16);
      v128.store(even + out + (x << 1), v128.shuffle<i16>(low, high, 0, 2, 4, 6, 8, 10, 12, 14));
      v128.store(odd + out + (x << 1), v128.shuffle<i16>(low, high, 1, 3, 5, 7, 9, 11, 13, 15));
    }
    for (; x < half; x++) {
      store<u16>(even + out + (x << 1), load<u16>(row + (x << 2)));
      if (2 * x + 1 < width) store<u16>(odd + out + (x << 1), load<u16>(row + (x << 2) + 2));
    }
  }
}

/** Above this sixteen steps may not fit in 16 bit. */
const MOST_USUAL: i32 = 2047;

/** Sixteen steps across a rim, each cut to what is usual, at one place. */
function cutSteps(inner: usize, outer: usize, place: usize, usual: i32): i32 {
  let sum = 0;
  for (let k = 0; k < DIRECTIONS; k++) {
    const outside = <i32>load<u16>(<usize>load<u32>(outer + (k << 2)) + place);
    const inside = <i32>load<u16>(<usize>load<u32>(inner + (k << 2)) + place);
    sum += max(-usual, min(usual, outside - inside));
  }
  return sum;
}

// Sums of cut steps at sixteen places side by side.
let first8: v128 = i16x8.splat(0);
let next8: v128 = i16x8.splat(0);

/** Adds the steps across sixteen rims, each cut to what is usual, in every second direction from the first that is given. */
function addSteps(inner: usize, outer: usize, place: usize, least: v128, most: v128): void {
  let first = first8;
  let next = next8;
  for (let k = 0; k < DIRECTIONS << 2; k += 8) {
    const outside = <usize>load<u32>(outer + k) + place;
    const inside = <usize>load<u32>(inner + k) + place;
    const step = i16x8.sub(v128.load(outside), v128.load(inside));
    const nextStep = i16x8.sub(v128.load(outside, 16), v128.load(inside, 16));
    first = i16x8.add(first, i16x8.max_s(least, i16x8.min_s(most, step)));
    next = i16x8.add(next, i16x8.max_s(least, i16x8.min_s(most, nextStep)));
  }
  first8 = first;
  next8 = next;
}

/** Which of the sums are larger than a limit, or smaller than it below 0: a bit for each. */
function beyond(limit: i32): i32 {
  const above = i16x8.splat(<i16>limit);
  const below = i16x8.splat(<i16>-limit);
  return i8x16.bitmask(
    i8x16.narrow_i16x8_s(
      v128.or(i16x8.gt_s(first8, above), i16x8.lt_s(first8, below)),
      v128.or(i16x8.gt_s(next8, above), i16x8.lt_s(next8, below)),
    ),
  );
}

/**
 * The step across a rim in every direction, each counted up to the usual one: a shadow shows all around, while an edge of
 * the subject, however strong, shows in a few directions only. Places are tried at every second pixel across and down.
 *
 * @param inner where the places just inside a rim about the first pixel lie: sixteen 32-bit offsets into the planes of even
 *   and odd columns; `outer` those just outside
 * @param usual a 32-bit number, at least 1, for each cell of `side` pixels
 * @param share what must answer, as a share of the usual step in all directions
 * @param reach how far the rim lies from its centre, an even number of pixels or one less
 * @param sums for every place of a grid of `gridColumns` with a border of one, 32 bit: thousandths of the usual step
 * @param places where one is not 0, in order
 * @returns how many there are
 */
export function tryRims(
  inner: usize,
  outer: usize,
  width: i32,
  height: i32,
  reach: i32,
  usual: usize,
  side: i32,
  columns: i32,
  share: f64,
  sums: usize,
  gridColumns: i32,
  places: usize,
): i32 {
  const half = (width + 1) >> 1;
  const first = (reach + 1) & ~1;
  const last = width - reach;
  let count = 0;
  for (let y = first; y < height - reach; y += 2) {
    const cells = usual + (((y / side) * columns) << 2);
    const grid = ((y >> 1) + 1) * gridColumns + 1;
    for (let x = first; x < last;) {
      const column = x / side;
      const end = min(last, (column + 1) * side);
      const common = load<i32>(cells + (column << 2));
      const limit = <i32>Math.round(share * <f64>common * <f64>DIRECTIONS);
      const rest = limit - (DIRECTIONS >> 1) * common;
      const most = i16x8.splat(<i16>common);
      const least = i16x8.splat(<i16>-common);
      for (; x < end; x += 32) {
        const place: usize = (y * half + (x >> 1)) << 1;
        const there = min(16, (end - x + 1) >> 1);
        let mask = 0xffff >>> (16 - there);
        if (common <= MOST_USUAL) {
          first8 = i16x8.splat(0);
          next8 = i16x8.splat(0);
          addSteps(inner, outer, place, least, most);
          // Where half of the directions say too little the others cannot make up for it: that is so nearly everywhere.
          if (beyond(rest) === 0) continue;
          addSteps(inner + 4, outer + 4, place, least, most);
          mask &= beyond(limit);
        }
        while (mask !== 0) {
          const k = ctz(mask);
          mask &= mask - 1;
          const total = cutSteps(inner, outer, place + (k << 1), common);
          if (total <= limit && total >= -limit) continue;
          const cell = grid + (x >> 1) + k;
          store<i32>(sums + (cell << 2), (1000 * total) / common);
          store<i32>(places + (count << 2), cell);
          count++;
        }
      }
      x = (end + 1) & ~1;
    }
  }
  return count;
}

/** Keeps of places those where no neighbour departs further the same way; of equals the first counts. @returns how many */
export function keepPeaks(map: usize, width: i32, places: usize, count: i32): i32 {
  let kept = 0;
  for (let p = 0; p < count; p++) {
    const i = load<i32>(places + (p << 2));
    const at = map + (i << 1);
    const sign: i32 = load<i16>(at) > 0 ? 1 : -1;
    const value = sign * <i32>load<i16>(at);
    const up = at - (width << 1);
    const down = at + (width << 1);
    if (
      value <= sign * <i32>load<i16>(at - 2) ||
      value < sign * <i32>load<i16>(at + 2) ||
      value <= sign * <i32>load<i16>(up) ||
      value < sign * <i32>load<i16>(down) ||
      value <= sign * <i32>load<i16>(up - 2) ||
      value < sign * <i32>load<i16>(down + 2) ||
      value <= sign * <i32>load<i16>(up + 2) ||
      value < sign * <i32>load<i16>(down - 2)
    )
      continue;
    store<i32>(places + (kept << 2), i);
    kept++;
  }
  return kept;
}

/** True if no neighbour on the grid answers more strongly the same way; of equals the first counts. */
function isGridPeak(at: usize, columns: i32): bool {
  const sign = load<i32>(at) > 0 ? 1 : -1;
  const value = sign * load<i32>(at);
  const up = at - (columns << 2);
  const down = at + (columns << 2);
  return (
    value > sign * load<i32>(at - 4) &&
    value >= sign * load<i32>(at + 4) &&
    value > sign * load<i32>(up) &&
    value >= sign * load<i32>(down) &&
    value > sign * load<i32>(up - 4) &&
    value >= sign * load<i32>(down + 4) &&
    value > sign * load<i32>(up + 4) &&
    value >= sign * load<i32>(down - 4)
  );
}

// The rim that is looked at: set by `climbRims`, read by what it calls.
let rimData: usize = 0;
let rimWidth: i32 = 0;
let rimHeight: i32 = 0;
let rimInner: usize = 0;
let rimOuter: usize = 0;
let rimReach: i32 = 0;
let rimUsual: usize = 0;
let rimSide: i32 = 0;
let rimColumns: i32 = 0;

// What `lookAt` saw: the mean step with each counted up to the usual one, -1 to 1, with every step in full, and the usual
// one itself.
let cut: f64 = 0;
let full: f64 = 0;
let usualHere: f64 = 0;

/** What is usual at a place; infinite where the rim does not fit in, so that nothing stands out. */
function usualAt(x: i32, y: i32): f32 {
  if (x < rimReach || y < rimReach || x >= rimWidth - rimReach || y >= rimHeight - rimReach)
    return f32.MAX_VALUE;
  return load<f32>(rimUsual + (((y / rimSide) * rimColumns + x / rimSide) << 2));
}

/** Looks at the rim about a place where it fits in. */
function lookAt(x: i32, y: i32): void {
  usualHere = <f64>usualAt(x, y);
  const at = rimData + ((y * rimWidth + x) << 1);
  cut = 0;
  full = 0;
  for (let k = 0; k < DIRECTIONS << 2; k += 4) {
    const step = <f64>(
      (<i32>load<u16>(at + load<i32>(rimOuter + k)) - <i32>load<u16>(at + load<i32>(rimInner + k)))
    );
    full += step;
    cut += max(-usualHere, min(usualHere, step));
  }
  cut /= <f64>DIRECTIONS * usualHere;
  full /= <f64>DIRECTIONS * usualHere;
}

/** A deep speck reaches all it may off its centre already: from there on the steps in full tell the way. */
const FULL_SHARE: f32 = 0.02;

/**
 * How high a climb is at a place and the three that follow it in its row: the mean step across the rim with each counted up
 * to the usual one, and a share of the step in full. 0 where a rim does not fit in.
 */
function heightsAlong(x: i32, y: i32): v128 {
  if (y < rimReach || y >= rimHeight - rimReach || x + 3 < rimReach || x >= rimWidth - rimReach)
    return f32x4.splat(0);
  let usual = f32x4.splat(usualAt(x, y));
  // Nearly always they lie in one cell.
  if (x % rimSide > rimSide - 4 || x < rimReach || x + 3 >= rimWidth - rimReach) {
    usual = f32x4.replace_lane(usual, 1, usualAt(x + 1, y));
    usual = f32x4.replace_lane(usual, 2, usualAt(x + 2, y));
    usual = f32x4.replace_lane(usual, 3, usualAt(x + 3, y));
  }
  const at = rimData + ((y * rimWidth + x) << 1);
  const least = f32x4.neg(usual);
  let cuts = f32x4.splat(0);
  let fulls = i32x4.splat(0);
  for (let k = 0; k < DIRECTIONS << 2; k += 4) {
    const outside = i32x4.extend_low_i16x8_u(v128.load64_zero(at + load<i32>(rimOuter + k)));
    const inside = i32x4.extend_low_i16x8_u(v128.load64_zero(at + load<i32>(rimInner + k)));
    const step = i32x4.sub(outside, inside);
    fulls = i32x4.add(fulls, step);
    cuts = f32x4.add(cuts, f32x4.max(least, f32x4.min(usual, f32x4.convert_i32x4_s(step))));
  }
  const sums = f32x4.add(cuts, f32x4.mul(f32x4.splat(FULL_SHARE), f32x4.convert_i32x4_s(fulls)));
  return f32x4.div(f32x4.mul(sums, f32x4.splat(<f32>1 / <f32>DIRECTIONS)), usual);
}

// The highest place of a climb so far, and how high it is.
let climbedX: i32 = 0;
let climbedY: i32 = 0;
let climbed: f32 = 0;

/** Goes to the highest of three places, the middle one at `x`, if that is higher. @param heights of the three and another */
function climbAlong(heights: v128, sign: f32, x: i32, y: i32): void {
  const west = sign * f32x4.extract_lane(heights, 0);
  const middle = sign * f32x4.extract_lane(heights, 1);
  const east = sign * f32x4.extract_lane(heights, 2);
  const most = max(west, max(middle, east));
  if (most <= climbed) return;
  climbed = most;
  // Of equals the first counts.
  climbedX = west === most ? x - 1 : middle === most ? x : x + 1;
  climbedY = y;
}

/** Steps that are climbed at most. */
const MOST_CLIMBED: i32 = 5;

/**
 * Climbs from every peak of the grid to the place where the rim stands out most.
 *
 * @param inner where the places just inside a rim lie from its centre: sixteen 32-bit numbers of bytes; `outer` those outside
 * @param usual a 32-bit float for each cell of `side` pixels
 * @param least what must answer there, as a share of the usual step
 * @param found for each four 64-bit floats: index of the pixel, mean step with each counted up to the usual one, over the
 *   usual one, the usual one, and the mean step in full, over the usual one and above 0
 * @returns how many there are; some may be the same
 */
export function climbRims(
  data: usize,
  width: i32,
  height: i32,
  inner: usize,
  outer: usize,
  reach: i32,
  usual: usize,
  side: i32,
  columns: i32,
  sums: usize,
  gridColumns: i32,
  places: usize,
  count: i32,
  least: f64,
  found: usize,
): i32 {
  rimData = data;
  rimWidth = width;
  rimHeight = height;
  rimInner = inner;
  rimOuter = outer;
  rimReach = reach;
  rimUsual = usual;
  rimSide = side;
  rimColumns = columns;
  let kept = 0;
  for (let p = 0; p < count; p++) {
    const cell = load<i32>(places + (p << 2));
    if (!isGridPeak(sums + (cell << 2), gridColumns)) continue;
    const row = cell / gridColumns - 1;
    const at = 2 * (row * width + cell - (row + 1) * gridColumns - 1);
    let x = at % width;
    let y = at / width;
    // Its own height stands among those of its row, which the first step asks for.
    let middle = heightsAlong(x - 1, y);
    const sign: f32 = f32x4.extract_lane(middle, 1) > 0 ? 1 : -1;
    climbed = sign * f32x4.extract_lane(middle, 1);
    climbedX = x;
    climbedY = y;
    for (let climb = 0; climb < MOST_CLIMBED; climb++) {
      if (climb > 0) middle = heightsAlong(x - 1, y);
      climbAlong(heightsAlong(x - 1, y - 1), sign, x, y - 1);
      climbAlong(middle, sign, x, y);
      climbAlong(heightsAlong(x - 1, y + 1), sign, x, y + 1);
      if (climbedX === x && climbedY === y) break;
      x = climbedX;
      y = climbedY;
    }
    lookAt(x, y);
    if (<f64>sign * cut < least) continue;
    const out = found + (kept << 5);
    store<f64>(out, <f64>(y * width + x));
    store<f64>(out, cut, 8);
    store<f64>(out, usualHere, 16);
    store<f64>(out, <f64>sign * full, 24);
    kept++;
  }
  return kept;
}
