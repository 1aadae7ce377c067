// Medians of a square window that slides over columns. All offsets are bytes. Values have 8 bits, in 16 classes of 16, or 9
// bits, in 32 classes of 16. Counts are kept as running sums, how many values lie below each class: comparing all of them at
// once with the rank that is wanted tells in which it lies.

/** For each of 32 classes 32 lanes, which are 255 where the lane's own number is larger. */
const TABLE = 1024;
const ENTRY = 5;
/** Counts of one column, or of one class of it. */
const COUNTS = 4;
/** Counts of one window in one class, of 16 bits. */
const WINDOW = 5;
/** Byte by byte a place far left of any row: where a window stood that was never counted. */
const NOWHERE: u8 = 0x80;

/** How many of the first 16 counts, which grow, are no larger than a rank. */
function upTo(rank: v128, first: v128, second: v128): i32 {
  return popcnt(i8x16.bitmask(i8x16.narrow_i16x8_s(i16x8.le_u(first, rank), i16x8.le_u(second, rank))));
}

function plusLow(sum: v128, enters: v128, leaves: v128): v128 {
  return i16x8.sub(i16x8.add(sum, i16x8.extend_low_i8x16_u(enters)), i16x8.extend_low_i8x16_u(leaves));
}

function plusHigh(sum: v128, enters: v128, leaves: v128): v128 {
  return i16x8.sub(i16x8.add(sum, i16x8.extend_high_i8x16_u(enters)), i16x8.extend_high_i8x16_u(leaves));
}

function add(at: usize, entry: usize): void {
  v128.store(at, i8x16.sub(v128.load(at), v128.load(entry)));
}

function remove(at: usize, entry: usize): void {
  v128.store(at, i8x16.add(v128.load(at), v128.load(entry)));
}

/** Counts a row of values in. */
function addRow<T>(row: usize, columns: i32, table: usize, classes: usize, inner: usize): void {
  for (let c = 0; c < columns; c++) {
    const value = <usize>load<T>(row + c * sizeof<T>());
    const group = value >> 4;
    const at = classes + ((c * sizeof<T>()) << COUNTS);
    add(at, table + (group << ENTRY));
    if (sizeof<T>() === 2) add(at + 16, table + (group << ENTRY) + 16);
    add(inner + ((group * columns + c) << COUNTS), table + ((value & 15) << ENTRY));
  }
}

/** Counts one row of values in and another out. */
function slideRow<T>(
  gone: usize,
  fresh: usize,
  columns: i32,
  table: usize,
  classes: usize,
  inner: usize,
): void {
  for (let c = 0; c < columns; c++) {
    const old = <usize>load<T>(gone + c * sizeof<T>());
    const value = <usize>load<T>(fresh + c * sizeof<T>());

    const left = table + ((old >> 4) << ENTRY);
    const entered = table + ((value >> 4) << ENTRY);
    const at = classes + ((c * sizeof<T>()) << COUNTS);
    v128.store(at, i8x16.add(i8x16.sub(v128.load(at), v128.load(entered)), v128.load(left)));
    if (sizeof<T>() === 2)
      v128.store(
        at,
        i8x16.add(i8x16.sub(v128.load(at, 16), v128.load(entered, 16)), v128.load(left, 16)),
        16,
      );
    const within = inner + (c << COUNTS);
    remove(within + (((old >> 4) * columns) << COUNTS), table + ((old & 15) << ENTRY));
    add(within + (((value >> 4) * columns) << COUNTS), table + ((value & 15) << ENTRY));
  }
}

/** Brings a window's counts in one class from where it stood when they were taken last to where it stands. */
function bringWindow(window: usize, last: i32, x: i32, side: i32, columns: usize): void {
  const way = x - last;
  if (way > side >> 1) return countWindow(window, columns + ((<usize>x) << COUNTS), side);
  let low = v128.load(window);
  let high = v128.load(window, 16);
  let leaves = columns + ((<usize>last) << COUNTS);
  let enters = leaves + ((<usize>side) << COUNTS);
  for (let k = 0; k < way; k++) {
    const more = v128.load(enters);
    const fewer = v128.load(leaves);
    low = plusLow(low, more, fewer);
    high = plusHigh(high, more, fewer);
    enters += 16;
    leaves += 16;
  }
  v128.store(window, low);
  v128.store(window, high, 16);
}

/** Counts a window's columns in one class. */
function countWindow(window: usize, column: usize, side: i32): void {
  let low = i16x8.splat(0);
  let high = low;
  for (let k = 0; k < side; k++) {
    const counts = v128.load(column);
    low = i16x8.add(low, i16x8.extend_low_i8x16_u(counts));
    high = i16x8.add(high, i16x8.extend_high_i8x16_u(counts));
    column += 16;
  }
  v128.store(window, low);
  v128.store(window, high, 16);
}

/** Medians along one row. */
function scanRow<T>(
  columns: i32,
  radius: i32,
  classes: usize,
  inner: usize,
  windows: usize,
  places: usize,
  sums: usize,
  onto: usize,
): void {
  const side = 2 * radius + 1;
  const half = (side * side - 1) >> 1;
  const rank = i16x8.splat(<i16>half);
  let first = i16x8.splat(0);
  let second = first;
  let third = first;
  let fourth = first;
  const none = first;
  for (let c = 0; c < side - 1; c++) {
    const at = classes + ((c * sizeof<T>()) << COUNTS);
    first = plusLow(first, v128.load(at), none);
    second = plusHigh(second, v128.load(at), none);
    if (sizeof<T>() === 2) {
      third = plusLow(third, v128.load(at, 16), none);
      fourth = plusHigh(fourth, v128.load(at, 16), none);
    }
  }
  const end = columns - side;
  for (let x = 0; x <= end; x++) {
    const enters = classes + (((x + side - 1) * sizeof<T>()) << COUNTS);
    const leaves = enters - ((<usize>side * sizeof<T>()) << COUNTS);
    // Before the first window nothing leaves: what lies there is kept 0.
    first = plusLow(first, v128.load(enters), v128.load(leaves));
    second = plusHigh(second, v128.load(enters), v128.load(leaves));
    v128.store(sums, first);
    v128.store(sums, second, 16);
    let group = upTo(rank, first, second) - 1;
    if (sizeof<T>() === 2) {
      third = plusLow(third, v128.load(enters, 16), v128.load(leaves, 16));
      fourth = plusHigh(fourth, v128.load(enters, 16), v128.load(leaves, 16));
      v128.store(sums, third, 32);
      v128.store(sums, fourth, 48);
      group += upTo(rank, third, fourth);
    }
    const below = <i32>load<u16>(sums + ((<usize>group) << 1));
    const window = windows + ((<usize>group) << WINDOW);
    const place = places + ((<usize>group) << 2);
    bringWindow(window, load<i32>(place), x, side, inner + ((<usize>(group * columns)) << COUNTS));
    store<i32>(place, x);
    const inside = upTo(i16x8.splat(<i16>(half - below)), v128.load(window), v128.load(window, 16)) - 1;
    const level = (group << 4) + inside;
    if (sizeof<T>() === 1) store<u8>(onto + x, <u8>level);
    else {
      const fewer = below + <i32>load<u16>(window + ((<usize>inside) << 1));
      const more =
        inside < 15
          ? below + <i32>load<u16>(window + ((<usize>inside) << 1), 2)
          : <i32>load<u16>(sums + ((<usize>group) << 1), 2);
      const fill = (<f32>(half - fewer) + <f32>0.5) / <f32>(more - fewer);
      store<u16>(onto + ((<usize>x) << 1), <u16>((<f64>level + <f64>fill) * 128));
    }
  }
}

/** The first value of the row that counts for a row of the window, which may lie beyond the border. */
function rowAt<T>(binned: usize, y: i32, columns: i32, height: i32): usize {
  return binned + <usize>(max(0, min(height - 1, y)) * columns) * sizeof<T>();
}

function medians<T>(binned: usize, columns: i32, height: i32, radius: i32, work: usize, onto: usize): void {
  const side = 2 * radius + 1;
  const count = 16 * sizeof<T>();
  const table = work;
  for (let k = 0; k < 32; k++)
    for (let lane = 0; lane < 32; lane++) store<u8>(table + (k << ENTRY) + lane, lane > k ? 255 : 0);
  const sums = table + TABLE;
  const places = sums + 80;
  const windows = places + 4 * count;
  const before = windows + (count << WINDOW);
  const classes = before + (sizeof<T>() << COUNTS);
  const inner = classes + ((columns * sizeof<T>()) << COUNTS);
  memory.fill(before, 0, inner + ((count * columns) << COUNTS) - before);
  // Behind the last class lies the whole window.
  store<u16>(sums + 2 * count, <u16>(side * side));
  for (let y = -radius; y <= radius; y++)
    addRow<T>(rowAt<T>(binned, y, columns, height), columns, table, classes, inner);
  const width = columns - side + 1;
  for (let y = 0; y < height; y++) {
    if (y > 0) {
      const gone = rowAt<T>(binned, y - radius - 1, columns, height);
      slideRow<T>(gone, rowAt<T>(binned, y + radius, columns, height), columns, table, classes, inner);
    }
    memory.fill(places, NOWHERE, 4 * count);
    scanRow<T>(columns, radius, classes, inner, windows, places, sums, onto + y * width * sizeof<T>());
  }
}

/**
 * Medians of 8-bit values.
 *
 * @param binned `columns` values in each of `height` rows; rows beyond the border are the nearest one
 * @param work room for `medianWork`
 * @param onto `columns - 2 * radius` medians in each row
 */
export function medianBytes(
  binned: usize,
  columns: i32,
  height: i32,
  radius: i32,
  work: usize,
  onto: usize,
): void {
  medians<u8>(binned, columns, height, radius, work, onto);
}

/** Medians of 9-bit values, laid out as 16 bits: of 16 bits again, read off straight inside the bin of the middle value. */
export function medianShorts(
  binned: usize,
  columns: i32,
  height: i32,
  radius: i32,
  work: usize,
  onto: usize,
): void {
  medians<u16>(binned, columns, height, radius, work, onto);
}
