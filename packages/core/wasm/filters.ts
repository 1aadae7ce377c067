// Inner loops of the filters, four samples at a time. All offsets are bytes, all samples 32-bit floats. What is left at the
// end of a row is worked out one by one, with the same sums in the same order.

/** Makes room: memory holds at least so many bytes. */
export function reserve(bytes: i32): void {
  const pages = (bytes + 0xffff) >>> 16;
  const held = memory.size();
  if (pages > held) memory.grow(pages - held);
}

/** A sum with two samples that have the same weight. */
function withBoth(sum: v128, weight: v128, before: v128, after: v128): v128 {
  return f32x4.add(sum, f32x4.mul(weight, f32x4.add(before, after)));
}

function storeFour(at: usize, first: v128, second: v128, third: v128, fourth: v128): void {
  v128.store(at, first);
  v128.store(at, second, 16);
  v128.store(at, third, 32);
  v128.store(at, fourth, 48);
}

/**
 * Convolves every row with a symmetric kernel; beyond the border the nearest sample counts.
 *
 * `half` holds `radius + 1` weights, the middle first; `padded` has room for `width + 2 * radius` samples.
 */
export function blurRows(
  from: usize,
  onto: usize,
  width: i32,
  height: i32,
  half: usize,
  radius: i32,
  padded: usize,
): void {
  for (let y = 0; y < height; y++) {
    const row = from + ((y * width) << 2);
    const first = load<f32>(row);
    const last = load<f32>(row + ((width - 1) << 2));
    for (let i = 0; i < radius; i++) store<f32>(padded + (i << 2), first);
    memory.copy(padded + (radius << 2), row, width << 2);
    const end = padded + ((radius + width) << 2);
    for (let i = 0; i < radius; i++) store<f32>(end + (i << 2), last);
    const out = onto + ((y * width) << 2);
    let x = 0;
    for (; x + 16 <= width; x += 16) {
      const middle = padded + ((x + radius) << 2);
      const most = v128.load_splat<f32>(half);
      let first = f32x4.mul(most, v128.load(middle));
      let second = f32x4.mul(most, v128.load(middle, 16));
      let third = f32x4.mul(most, v128.load(middle, 32));
      let fourth = f32x4.mul(most, v128.load(middle, 48));
      for (let i = 1; i <= radius; i++) {
        const weight = v128.load_splat<f32>(half + (i << 2));
        const left = middle - (i << 2);
        const right = middle + (i << 2);
        first = withBoth(first, weight, v128.load(left), v128.load(right));
        second = withBoth(second, weight, v128.load(left, 16), v128.load(right, 16));
        third = withBoth(third, weight, v128.load(left, 32), v128.load(right, 32));
        fourth = withBoth(fourth, weight, v128.load(left, 48), v128.load(right, 48));
      }
      storeFour(out + (x << 2), first, second, third, fourth);
    }
    for (; x + 4 <= width; x += 4) {
      const middle = padded + ((x + radius) << 2);
      let sum = f32x4.mul(v128.load_splat<f32>(half), v128.load(middle));
      for (let i = 1; i <= radius; i++) {
        const both = f32x4.add(v128.load(middle - (i << 2)), v128.load(middle + (i << 2)));
        sum = f32x4.add(sum, f32x4.mul(v128.load_splat<f32>(half + (i << 2)), both));
      }
      v128.store(out + (x << 2), sum);
    }
    for (; x < width; x++) {
      const middle = padded + ((x + radius) << 2);
      let sum = load<f32>(half) * load<f32>(middle);
      for (let i = 1; i <= radius; i++)
        sum += load<f32>(half + (i << 2)) * (load<f32>(middle - (i << 2)) + load<f32>(middle + (i << 2)));
      store<f32>(out + (x << 2), sum);
    }
  }
}

/** Convolves every column with a symmetric kernel; beyond the border the nearest sample counts. */
export function blurColumns(
  from: usize,
  onto: usize,
  width: i32,
  height: i32,
  half: usize,
  radius: i32,
): void {
  const stride = width << 2;
  for (let y = 0; y < height; y++) {
    const row = from + y * stride;
    const out = onto + y * stride;
    let x = 0;
    for (; x + 16 <= width; x += 16) {
      const at = x << 2;
      const most = v128.load_splat<f32>(half);
      let first = f32x4.mul(most, v128.load(row + at));
      let second = f32x4.mul(most, v128.load(row + at, 16));
      let third = f32x4.mul(most, v128.load(row + at, 32));
      let fourth = f32x4.mul(most, v128.load(row + at, 48));
      for (let i = 1; i <= radius; i++) {
        const weight = v128.load_splat<f32>(half + (i << 2));
        const upper = from + max(0, y - i) * stride + at;
        const lower = from + min(height - 1, y + i) * stride + at;
        first = withBoth(first, weight, v128.load(upper), v128.load(lower));
        second = withBoth(second, weight, v128.load(upper, 16), v128.load(lower, 16));
        third = withBoth(third, weight, v128.load(upper, 32), v128.load(lower, 32));
        fourth = withBoth(fourth, weight, v128.load(upper, 48), v128.load(lower, 48));
      }
      storeFour(out + at, first, second, third, fourth);
    }
    for (; x + 4 <= width; x += 4) {
      const at = x << 2;
      let sum = f32x4.mul(v128.load_splat<f32>(half), v128.load(row + at));
      for (let i = 1; i <= radius; i++) {
        const upper = from + max(0, y - i) * stride + at;
        const lower = from + min(height - 1, y + i) * stride + at;
        const both = f32x4.add(v128.load(upper), v128.load(lower));
        sum = f32x4.add(sum, f32x4.mul(v128.load_splat<f32>(half + (i << 2)), both));
      }
      v128.store(out + at, sum);
    }
    for (; x < width; x++) {
      const at = x << 2;
      let sum = load<f32>(half) * load<f32>(row + at);
      for (let i = 1; i <= radius; i++) {
        const upper = from + max(0, y - i) * stride + at;
        const lower = from + min(height - 1, y + i) * stride + at;
        sum += load<f32>(half + (i << 2)) * (load<f32>(upper) + load<f32>(lower));
      }
      store<f32>(out + at, sum);
    }
  }
}

/** The sum of three planes, each times its weight. */
export function weigh(
  red: usize,
  green: usize,
  blue: usize,
  onto: usize,
  count: i32,
  ofRed: f32,
  ofGreen: f32,
  ofBlue: f32,
): void {
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const at = i << 2;
    const first = f32x4.mul(v128.load(red + at), f32x4.splat(ofRed));
    const second = f32x4.mul(v128.load(green + at), f32x4.splat(ofGreen));
    const third = f32x4.mul(v128.load(blue + at), f32x4.splat(ofBlue));
    v128.store(onto + at, f32x4.add(f32x4.add(first, second), third));
  }
  for (; i < count; i++) {
    const at = i << 2;
    const pair = load<f32>(red + at) * ofRed + load<f32>(green + at) * ofGreen;
    store<f32>(onto + at, pair + load<f32>(blue + at) * ofBlue);
  }
}

/** Adds a change to values, bounded to 0 to 1; in place. */
export function addBounded(values: usize, change: usize, count: i32): void {
  const zero = f32x4.splat(0);
  const one = f32x4.splat(1);
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const at = i << 2;
    const sum = f32x4.add(v128.load(values + at), v128.load(change + at));
    v128.store(values + at, f32x4.min(one, f32x4.max(zero, sum)));
  }
  for (; i < count; i++) {
    const at = i << 2;
    store<f32>(values + at, min(<f32>1, max(<f32>0, load<f32>(values + at) + load<f32>(change + at))));
  }
}

/** One round of a deconvolution: `ratio` becomes what was seen over what the estimate would show, in `again`. */
export function share(seen: usize, again: usize, ratio: usize, count: i32, least: f32): void {
  const zero = f32x4.splat(0);
  const some = f32x4.splat(least);
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const at = i << 2;
    const above = f32x4.add(v128.load(seen + at), some);
    const below = f32x4.add(f32x4.max(zero, v128.load(again + at)), some);
    v128.store(ratio + at, f32x4.div(above, below));
  }
  for (; i < count; i++) {
    const at = i << 2;
    const below = max(<f32>0, load<f32>(again + at)) + least;
    store<f32>(ratio + at, (load<f32>(seen + at) + least) / below);
  }
}

/** What lies as far beyond the values as others on this side: twice the values less the others; into the others. */
export function mirror(values: usize, others: usize, count: i32): void {
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const value = v128.load(values + i);
    v128.store(others + i, f32x4.sub(f32x4.add(value, value), v128.load(others + i)));
  }
}

/** By how much others depart from values, lessened by a threshold, times an amount; into the others. */
export function standOut(values: usize, others: usize, count: i32, amount: f32, threshold: f32): void {
  const times = f32x4.splat(amount);
  const least = f32x4.splat(threshold);
  const none = f32x4.splat(0);
  const sign = i32x4.splat(<i32>0x80000000);
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) {
    const gained = f32x4.sub(v128.load(others + i), v128.load(values + i));
    const beyond = f32x4.max(none, f32x4.sub(f32x4.abs(gained), least));
    v128.store(others + i, f32x4.mul(times, v128.or(beyond, v128.and(gained, sign))));
  }
}

/** Values times a number; in place. Up to three behind the last are written too. */
export function scale(values: usize, by: f32, count: i32): void {
  const factor = f32x4.splat(by);
  const end = (<usize>count) << 2;
  for (let i: usize = 0; i < end; i += 16) v128.store(values + i, f32x4.mul(v128.load(values + i), factor));
}

/** Multiplies values by others; in place. */
export function multiply(values: usize, by: usize, count: i32): void {
  let i = 0;
  for (; i + 4 <= count; i += 4) {
    const at = i << 2;
    v128.store(values + at, f32x4.mul(v128.load(values + at), v128.load(by + at)));
  }
  for (; i < count; i++) {
    const at = i << 2;
    store<f32>(values + at, load<f32>(values + at) * load<f32>(by + at));
  }
}

/**
 * Reads samples between others with a kernel of six by six weights.
 *
 * `columns`, `across` and `down` hold a number for each place, `rows` too: the sample left of and above it in `plane`,
 * whose rows are `stride` samples long, and which of the lines of `weights` is its own along either side. A line is eight
 * weights, the last two 0. A place whose column is below `least` gets `beyond`.
 */
export function readBetween(
  count: i32,
  columns: usize,
  rows: usize,
  across: usize,
  down: usize,
  weights: usize,
  plane: usize,
  stride: i32,
  onto: usize,
  least: i32,
  beyond: f32,
): void {
  for (let k = 0; k < count; k++) {
    const i = k << 2;
    const column = load<i32>(columns + i);
    if (column < least) {
      store<f32>(onto + i, beyond);
      continue;
    }
    const line = weights + (load<i32>(across + i) << 5);
    const side = weights + (load<i32>(down + i) << 5);
    const near = v128.load(line);
    const far = v128.load(line + 16);
    let from = plane + (((load<i32>(rows + i) - 2) * stride + column - 2) << 2);
    let sum = f32x4.splat(0);
    for (let j = 0; j < 24; j += 4) {
      const first = f32x4.mul(near, v128.load(from));
      const both = f32x4.add(first, f32x4.mul(far, v128.load(from + 16)));
      sum = f32x4.add(sum, f32x4.mul(v128.load_splat<f32>(side + j), both));
      from += stride << 2;
    }
    const left = f32x4.extract_lane(sum, 0) + f32x4.extract_lane(sum, 1);
    store<f32>(onto + i, left + (f32x4.extract_lane(sum, 2) + f32x4.extract_lane(sum, 3)));
  }
}

/** The samples at one place of two rows, in 64 bit. */
function ofTwo(first: usize, second: usize): v128 {
  return f64x2.promote_low_f32x4(v128.load32_lane(second, v128.load32_zero(first), 1));
}

function storeTwo(first: usize, second: usize, values: v128): void {
  const floats = f32x4.demote_f64x2_zero(values);
  v128.store32_lane(first, floats, 0);
  v128.store32_lane(second, floats, 1);
}

/** Means over runs of `2 radius + 1` samples of every row; shorter runs at its ends. */
export function meanRows(from: usize, onto: usize, width: i32, height: i32, radius: i32): void {
  const whole: f64 = 1 / <f64>(2 * radius + 1);
  const stride: usize = width << 2;
  let y = 0;
  // A running sum waits for itself: four rows at a time leave it no time to.
  for (; y + 4 <= height; y += 4) {
    const row = from + y * stride;
    const out = onto + y * stride;
    let upper = f64x2.splat(0);
    let lower = f64x2.splat(0);
    for (let x = 0; x < min(radius, width); x++) {
      const at = row + (x << 2);
      upper = f64x2.add(upper, ofTwo(at, at + stride));
      lower = f64x2.add(lower, ofTwo(at + 2 * stride, at + 3 * stride));
    }
    for (let x = 0; x < width; x++) {
      const first = x - radius;
      const last = x + radius;
      if (last < width) {
        const at = row + (last << 2);
        upper = f64x2.add(upper, ofTwo(at, at + stride));
        lower = f64x2.add(lower, ofTwo(at + 2 * stride, at + 3 * stride));
      }
      const isWhole = first >= 0 && last < width;
      const share = f64x2.splat(isWhole ? whole : 1 / <f64>(min(width - 1, last) - max(0, first) + 1));
      const mean = out + (x << 2);
      storeTwo(mean, mean + stride, f64x2.mul(upper, share));
      storeTwo(mean + 2 * stride, mean + 3 * stride, f64x2.mul(lower, share));
      if (first >= 0) {
        const at = row + (first << 2);
        upper = f64x2.sub(upper, ofTwo(at, at + stride));
        lower = f64x2.sub(lower, ofTwo(at + 2 * stride, at + 3 * stride));
      }
    }
  }
  for (; y < height; y++) meanRow(from + y * stride, onto + y * stride, width, radius, whole);
}

function meanRow(row: usize, out: usize, width: i32, radius: i32, whole: f64): void {
  let sum: f64 = 0;
  for (let x = 0; x < min(radius, width); x++) sum += load<f32>(row + (x << 2));
  for (let x = 0; x < width; x++) {
    const first = x - radius;
    const last = x + radius;
    if (last < width) sum += load<f32>(row + (last << 2));
    const isWhole = first >= 0 && last < width;
    const share = isWhole ? whole : 1 / <f64>(min(width - 1, last) - max(0, first) + 1);
    store<f32>(out + (x << 2), <f32>(sum * share));
    if (first >= 0) sum -= load<f32>(row + (first << 2));
  }
}

/** Adds a row to the sums of its columns, or takes it from them. */
function addRow(sums: usize, row: usize, width: i32, sign: f64): void {
  const signs = f64x2.splat(sign);
  let x = 0;
  for (; x + 2 <= width; x += 2) {
    const at = sums + (x << 3);
    const values = f64x2.promote_low_f32x4(v128.load64_zero(row + (x << 2)));
    v128.store(at, f64x2.add(v128.load(at), f64x2.mul(values, signs)));
  }
  for (; x < width; x++) {
    const at = sums + (x << 3);
    store<f64>(at, load<f64>(at) + sign * <f64>load<f32>(row + (x << 2)));
  }
}

/** Means over runs down every column; shorter runs at its ends. `sums` has room for one of 64 bit for each column. */
export function meanColumns(
  from: usize,
  onto: usize,
  width: i32,
  height: i32,
  radius: i32,
  sums: usize,
): void {
  const stride = width << 2;
  memory.fill(sums, 0, width << 3);
  for (let y = 0; y < min(radius, height); y++) addRow(sums, from + y * stride, width, 1);
  for (let y = 0; y < height; y++) {
    if (y + radius < height) addRow(sums, from + (y + radius) * stride, width, 1);
    const share: f64 = 1 / <f64>(min(height - 1, y + radius) - max(0, y - radius) + 1);
    const shares = f64x2.splat(share);
    const out = onto + y * stride;
    let x = 0;
    for (; x + 2 <= width; x += 2) {
      const means = f32x4.demote_f64x2_zero(f64x2.mul(v128.load(sums + (x << 3)), shares));
      v128.store64_lane(out + (x << 2), means, 0);
    }
    for (; x < width; x++) store<f32>(out + (x << 2), <f32>(load<f64>(sums + (x << 3)) * share));
    if (y - radius >= 0) addRow(sums, from + (y - radius) * stride, width, -1);
  }
}

/** Halves a plane by the mean of four; an odd side counts its last row or column twice. */
export function halveFloats(from: usize, onto: usize, width: i32, height: i32): void {
  const columns = (width + 1) >> 1;
  const rows = (height + 1) >> 1;
  const whole = width >> 1;
  const quarter = f32x4.splat(0.25);
  for (let y = 0; y < rows; y++) {
    const upper = from + ((2 * y * width) << 2);
    const lower = 2 * y + 1 < height ? upper + (width << 2) : upper;
    const out = onto + ((y * columns) << 2);
    let x = 0;
    for (; x + 4 <= whole; x += 4) {
      const at = x << 3;
      const first = f32x4.add(v128.load(upper + at), v128.load(lower + at));
      const second = f32x4.add(v128.load(upper + at + 16), v128.load(lower + at + 16));
      const even = v128.shuffle<f32>(first, second, 0, 2, 4, 6);
      const odd = v128.shuffle<f32>(first, second, 1, 3, 5, 7);
      v128.store(out + (x << 2), f32x4.mul(f32x4.add(even, odd), quarter));
    }
    for (; x < columns; x++) {
      const left = x << 3;
      const right = 2 * x + 1 < width ? left + 4 : left;
      const sum =
        load<f32>(upper + left) +
        load<f32>(lower + left) +
        (load<f32>(upper + right) + load<f32>(lower + right));
      store<f32>(out + (x << 2), sum * 0.25);
    }
  }
}

/**
 * Doubles a plane, straight between its samples; beyond the outermost the nearest counts.
 *
 * @param width of what comes out, twice that of the plane or one less; `height` alike
 * @param mixed room for a row of the plane with one sample more on either side
 */
export function doubleFloats(from: usize, onto: usize, width: i32, height: i32, mixed: usize): void {
  const columns = (width + 1) >> 1;
  const rows = (height + 1) >> 1;
  const near = f32x4.splat(0.75);
  const far = f32x4.splat(0.25);
  for (let y = 0; y < height; y++) {
    const row = y >> 1;
    const other = (y & 1) === 0 ? max(0, row - 1) : min(rows - 1, row + 1);
    const a = from + ((row * columns) << 2);
    const b = from + ((other * columns) << 2);
    let x = 0;
    for (; x + 4 <= columns; x += 4) {
      const at = x << 2;
      const sum = f32x4.add(f32x4.mul(near, v128.load(a + at)), f32x4.mul(far, v128.load(b + at)));
      v128.store(mixed + 4 + at, sum);
    }
    for (; x < columns; x++) {
      const at = x << 2;
      store<f32>(mixed + 4 + at, 0.75 * load<f32>(a + at) + 0.25 * load<f32>(b + at));
    }
    store<f32>(mixed, load<f32>(mixed + 4));
    store<f32>(mixed + 4 + (columns << 2), load<f32>(mixed + (columns << 2)));
    const out = onto + ((y * width) << 2);
    x = 0;
    for (; x + 4 <= width >> 1; x += 4) {
      const at = mixed + 4 + (x << 2);
      const here = f32x4.mul(near, v128.load(at));
      const even = f32x4.add(here, f32x4.mul(far, v128.load(at - 4)));
      const odd = f32x4.add(here, f32x4.mul(far, v128.load(at + 4)));
      v128.store(out + (x << 3), v128.shuffle<f32>(even, odd, 0, 4, 1, 5));
      v128.store(out + (x << 3) + 16, v128.shuffle<f32>(even, odd, 2, 6, 3, 7));
    }
    for (; x < columns; x++) {
      const at = mixed + 4 + (x << 2);
      const here: f32 = 0.75 * load<f32>(at);
      store<f32>(out + (x << 3), here + 0.25 * load<f32>(at - 4));
      if (2 * x + 1 < width) store<f32>(out + (x << 3) + 4, here + 0.25 * load<f32>(at + 4));
    }
  }
}
