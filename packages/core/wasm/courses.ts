// What is seen along and across the course of a line. All offsets are bytes; tables are columns of 64-bit floats.
import { COURSE_EVERY, COURSE_FEWEST, COURSE_NUMBERS, Course } from '../src/kernels/layout';
import { pixelUnder, sampleOf } from './channels';

/** Stations nearer than this to the border of the plane are left out: it is the farthest a measurement looks. */
const MARGIN: f64 = 6;
/** Sides are looked at from here to there, in pixels from the crest. */
const NEAR_SIDE: f64 = 3;
const FAR_SIDE: f64 = 4.5;
/** How far across a profile is looked at for the width, and at what steps, in pixels. */
const ACROSS: f64 = 4;
const ACROSS_EVERY: f64 = 0.5;
/** The least depth that is taken for one, in units of the plane. */
const LEAST_DEPTH: f64 = 16;
/** Fewer than this share of its points stand out less than what is said of the weakest. */
const WEAK_SHARE: f64 = 0.2;
/** Turns are taken between places so many stations apart. */
const TURN_OVER: i32 = 4;

// The level of the picture that is measured: 16-bit numbers.
let plane: usize = 0;
let planeWidth: i32 = 0;
let planeHeight: i32 = 0;

// Columns of 32-bit floats of all points: where they lie on the level, and how strong the crest is there.
let pointX: usize = 0;
let pointY: usize = 0;
let crest: usize = 0;

// The picture's own planes of colour, row after row without gaps, and how many of its pixels make one of the level.
let channels: usize = 0;
let channelCount: i32 = 0;
let isWide: bool = false;
let pictureWidth: i32 = 0;
let pictureHeight: i32 = 0;
let pictureScale: f64 = 1;

// Columns of one table that stands for all lines in turn: where the stations lie, the unit vector across, what is seen there.
let stationX: usize = 0;
let stationY: usize = 0;
let acrossX: usize = 0;
let acrossY: usize = 0;
let cores: usize = 0;
let left: usize = 0;
let right: usize = 0;
let sides: usize = 0;
let depths: usize = 0;
let shallower: usize = 0;
let widths: usize = 0;
let strengths: usize = 0;
let stations: i32 = 0;

// Which way a line runs where it is looked at, as long as the points it was taken from lie apart.
let directionX: f64 = 0;
let directionY: f64 = 0;

function at(column: usize, k: i32): f64 {
  return load<f64>(column + ((<usize>k) << 3));
}

function put(column: usize, k: i32, value: f64): void {
  store<f64>(column + ((<usize>k) << 3), value);
}

/** Writes what was measured of a line. */
function write(out: usize, field: Course, value: f64): void {
  store<f64>(out + ((<usize>field) << 3), value);
}

/** The plane between four samples: two that lie side by side are read as one number. */
function sampleAt(x: f64, y: f64): f64 {
  const px = x - 0.5;
  const py = y - 0.5;
  const ix = floor(px);
  const iy = floor(py);
  const fx = px - ix;
  const fy = py - iy;
  const upperAt = plane + ((<usize>(<i32>iy * planeWidth + <i32>ix)) << 1);
  const two = load<u32>(upperAt);
  const below = load<u32>(upperAt + ((<usize>planeWidth) << 1));
  const upperLeft = <f64>(two & 0xffff);
  const lowerLeft = <f64>(below & 0xffff);
  const upper = upperLeft + fx * (<f64>(two >> 16) - upperLeft);
  const lower = lowerLeft + fx * (<f64>(below >> 16) - lowerLeft);
  return upper + fy * (lower - upper);
}

/** Two samples side by side at each of four places. */
function pairsAt(index: v128, below: usize): v128 {
  const at = plane + below;
  let pairs = i32x4.splat(load<u32>(at + ((<usize>i32x4.extract_lane(index, 0)) << 1)));
  pairs = i32x4.replace_lane(pairs, 1, load<u32>(at + ((<usize>i32x4.extract_lane(index, 1)) << 1)));
  pairs = i32x4.replace_lane(pairs, 2, load<u32>(at + ((<usize>i32x4.extract_lane(index, 2)) << 1)));
  return i32x4.replace_lane(pairs, 3, load<u32>(at + ((<usize>i32x4.extract_lane(index, 3)) << 1)));
}

/** Between the two samples of each pair. */
function along(pairs: v128, share: v128): v128 {
  const left = f32x4.convert_i32x4_s(v128.and(pairs, i32x4.splat(0xffff)));
  const right = f32x4.convert_i32x4_s(i32x4.shr_u(pairs, 16));
  return f32x4.add(left, f32x4.mul(share, f32x4.sub(right, left)));
}

/** The plane between four samples, at four places. */
function samplesAt(x: v128, y: v128): v128 {
  const half = f32x4.splat(0.5);
  const px = f32x4.sub(x, half);
  const py = f32x4.sub(y, half);
  const ix = f32x4.floor(px);
  const iy = f32x4.floor(py);
  const rows = i32x4.mul(i32x4.trunc_sat_f32x4_s(iy), i32x4.splat(planeWidth));
  const index = i32x4.add(rows, i32x4.trunc_sat_f32x4_s(ix));
  const share = f32x4.sub(px, ix);
  const upper = along(pairsAt(index, 0), share);
  const lower = along(pairsAt(index, (<usize>planeWidth) << 1), share);
  return f32x4.add(upper, f32x4.mul(f32x4.sub(py, iy), f32x4.sub(lower, upper)));
}

function mean(column: usize, count: i32): f64 {
  let sum: f64 = 0;
  for (let k = 0; k < count; k++) sum += at(column, k);
  return count > 0 ? sum / <f64>count : 0;
}

function spread(column: usize, count: i32): f64 {
  const middle = mean(column, count);
  let sum: f64 = 0;
  for (let k = 0; k < count; k++) {
    const off = at(column, k) - middle;
    sum += off * off;
  }
  return count > 0 ? sqrt(sum / <f64>count) : 0;
}

/** Mean size of the steps from each value to the next. */
function meanStep(column: usize, count: i32): f64 {
  let sum: f64 = 0;
  for (let k = 1; k < count; k++) sum += abs(at(column, k) - at(column, k - 1));
  return count > 1 ? sum / <f64>(count - 1) : 0;
}

/** Mean difference of two columns. */
function meanApart(some: usize, others: usize, count: i32): f64 {
  let sum: f64 = 0;
  for (let k = 0; k < count; k++) sum += at(some, k) - at(others, k);
  return count > 0 ? sum / <f64>count : 0;
}

/** The value at a rank, from 0 for the least (Hoare's selection). The column is put in another order. */
function ranked(column: usize, count: i32, rank: i32): f64 {
  let from = 0;
  let to = count - 1;
  while (from < to) {
    const pivot = at(column, (from + to) >> 1);
    let i = from;
    let j = to;
    while (i <= j) {
      while (at(column, i) < pivot) i++;
      while (at(column, j) > pivot) j--;
      if (i > j) break;
      const kept = at(column, i);
      put(column, i++, at(column, j));
      put(column, j--, kept);
    }
    if (rank <= j) to = j;
    else if (rank >= i) from = i;
    else break;
  }
  return at(column, rank);
}

/** One place with the unit vector across, unless it lies too near the border of the level. */
function layStation(x: f64, y: f64, nx: f64, ny: f64): void {
  const right = <f64>planeWidth - MARGIN;
  const bottom = <f64>planeHeight - MARGIN;
  if (!(x > MARGIN && y > MARGIN && x < right && y < bottom)) return;
  put(stationX, stations, x);
  put(stationY, stations, y);
  put(acrossX, stations, nx);
  put(acrossY, stations, ny);
  stations++;
}

/** The direction of a line at a point, taken over a few points: a crest wavers by a fraction of a pixel. */
function findDirection(points: usize, i: i32, count: i32): void {
  const from = load<i32>(points + (max(0, i - 3) << 2)) << 2;
  const to = load<i32>(points + (min(count - 1, i + 2) << 2)) << 2;
  directionX = <f64>load<f32>(pointX + to) - <f64>load<f32>(pointX + from);
  directionY = <f64>load<f32>(pointY + to) - <f64>load<f32>(pointY + from);
}

/** Places at even steps along a line, with the direction across. */
function layStations(points: usize, count: i32): void {
  stations = 0;
  let behind: f64 = 0;
  for (let i = 1; i < count; i++) {
    const before = load<i32>(points + ((i - 1) << 2)) << 2;
    const here = load<i32>(points + (i << 2)) << 2;
    const x = <f64>load<f32>(pointX + before);
    const y = <f64>load<f32>(pointY + before);
    const stepX = <f64>load<f32>(pointX + here) - x;
    const stepY = <f64>load<f32>(pointY + here) - y;
    const length = sqrt(stepX * stepX + stepY * stepY);
    if (length === 0) continue;
    findDirection(points, i, count);
    let span = sqrt(directionX * directionX + directionY * directionY);
    if (span === 0) span = 1;
    for (let along = COURSE_EVERY - behind; along <= length; along += COURSE_EVERY) {
      const share = along / length;
      layStation(x + share * stepX, y + share * stepY, -directionY / span, directionX / span);
    }
    behind += length;
    while (behind >= COURSE_EVERY) behind -= COURSE_EVERY;
  }
}

/** Looks at core and sides at the stations. */
function lookAlong(sign: f64): void {
  for (let k = 0; k < stations; k++) {
    const x = at(stationX, k);
    const y = at(stationY, k);
    const nx = at(acrossX, k);
    const ny = at(acrossY, k);
    const core = sampleAt(x, y);
    const one =
      0.5 *
      (sampleAt(x + NEAR_SIDE * nx, y + NEAR_SIDE * ny) + sampleAt(x + FAR_SIDE * nx, y + FAR_SIDE * ny));
    const other =
      0.5 *
      (sampleAt(x - NEAR_SIDE * nx, y - NEAR_SIDE * ny) + sampleAt(x - FAR_SIDE * nx, y - FAR_SIDE * ny));
    const side = (one + other) / 2;
    put(cores, k, core);
    put(left, k, one);
    put(right, k, other);
    put(sides, k, side);
    put(depths, k, sign * (side - core));
    put(shallower, k, min(sign * (one - core), sign * (other - core)));
  }
}

/** Width at half the depth at each station, in pixels. */
function lookAcross(sign: f64, depth: f64): void {
  const enough = f32x4.splat(<f32>(depth / 2));
  const signs = f32x4.splat(<f32>sign);
  const four = f32x4.splat(4 * <f32>ACROSS_EVERY);
  for (let k = 0; k < stations; k++) {
    const x = f32x4.splat(<f32>at(stationX, k));
    const y = f32x4.splat(<f32>at(stationY, k));
    const nx = f32x4.splat(<f32>at(acrossX, k));
    const ny = f32x4.splat(<f32>at(acrossY, k));
    const side = f32x4.splat(<f32>at(sides, k));
    let away = f32x4(
      <f32>-ACROSS,
      <f32>(ACROSS_EVERY - ACROSS),
      <f32>(2 * ACROSS_EVERY - ACROSS),
      <f32>(3 * ACROSS_EVERY - ACROSS),
    );
    let wide = 0;
    // The last four reach beyond by three steps, which is within the margin.
    for (let t = -ACROSS; t <= ACROSS; t += 4 * ACROSS_EVERY) {
      const seen = samplesAt(f32x4.add(x, f32x4.mul(away, nx)), f32x4.add(y, f32x4.mul(away, ny)));
      const isIn = f32x4.gt(f32x4.mul(signs, f32x4.sub(side, seen)), enough);
      // Behind the last place nothing counts.
      wide += popcnt(i32x4.bitmask(v128.and(isIn, f32x4.le(away, f32x4.splat(<f32>ACROSS)))));
      away = f32x4.add(away, four);
    }
    put(widths, k, ACROSS_EVERY * <f64>wide);
  }
}

/** How far the line turns on its way, radians. */
function turning(): f64 {
  let sum: f64 = 0;
  for (let k = TURN_OVER; k < stations; k += TURN_OVER) {
    const o = k - TURN_OVER;
    const together = abs(at(acrossX, k) * at(acrossX, o) + at(acrossY, k) * at(acrossY, o));
    sum += Math.acos(min(1, together));
  }
  return sum;
}

/** Sums of the core and of both sides in each channel, at all stations. */
function compareChannels(onto: usize): void {
  for (let c = 0; c < channelCount; c++) {
    store<f64>(onto + (c << 4), 0);
    store<f64>(onto + (c << 4), 0, 8);
  }
  const scale = pictureScale;
  for (let k = 0; k < stations; k++) {
    const x = at(stationX, k);
    const y = at(stationY, k);
    const sx = NEAR_SIDE * at(acrossX, k);
    const sy = NEAR_SIDE * at(acrossY, k);
    const core = pixelUnder(pictureWidth, pictureHeight, x * scale, y * scale);
    const one = pixelUnder(pictureWidth, pictureHeight, (x + sx) * scale, (y + sy) * scale);
    const other = pixelUnder(pictureWidth, pictureHeight, (x - sx) * scale, (y - sy) * scale);
    for (let c = 0; c < channelCount; c++) {
      const channel = <usize>load<u32>(channels + (c << 2));
      const sum = onto + (c << 4);
      store<f64>(sum, load<f64>(sum) + <f64>sampleOf(channel, isWide, core));
      const sides = sampleOf(channel, isWide, one) + sampleOf(channel, isWide, other);
      store<f64>(sum, load<f64>(sum, 8) + <f64>sides, 8);
    }
  }
}

/** The length of a line over its points, in pixels of the level; how strong its crest is goes into the column of strengths. */
function measureLength(points: usize, count: i32): f64 {
  let length: f64 = 0;
  let beforeX: f64 = 0;
  let beforeY: f64 = 0;
  for (let i = 0; i < count; i++) {
    const k = load<i32>(points + (i << 2)) << 2;
    const x = <f64>load<f32>(pointX + k);
    const y = <f64>load<f32>(pointY + k);
    const dx = x - beforeX;
    const dy = y - beforeY;
    if (i > 0) length += sqrt(dx * dx + dy * dy);
    beforeX = x;
    beforeY = y;
    put(strengths, i, <f64>load<f32>(crest + k));
  }
  return length;
}

/** Measures one line; `sign` is 1 where it is darker than its sides and -1 where it is brighter. */
function measureCourse(points: usize, count: i32, sign: f64, out: usize): void {
  layStations(points, count);
  write(out, Course.STATIONS, <f64>stations);
  if (stations < COURSE_FEWEST) return;
  const length = measureLength(points, count);
  lookAlong(sign);
  const depth = mean(depths, stations);
  lookAcross(sign, max(LEAST_DEPTH, depth));
  write(out, Course.LENGTH, length);
  write(out, Course.STRENGTH, mean(strengths, count));
  write(out, Course.WEAKEST, ranked(strengths, count, <i32>floor(WEAK_SHARE * <f64>(count - 1))));
  write(out, Course.DEPTH, depth);
  write(out, Course.DEPTH_SPREAD, spread(depths, stations));
  write(out, Course.SHALLOWER, mean(shallower, stations));
  write(out, Course.STEP, meanApart(left, right, stations));
  write(out, Course.TURNING, turning());
  write(out, Course.WIDTH, mean(widths, stations));
  write(out, Course.WIDTH_SPREAD, spread(widths, stations));
  write(out, Course.SIDES_SPREAD, spread(sides, stations));
  write(out, Course.SIDES_STEP, meanStep(sides, stations));
  write(out, Course.SIDES, mean(sides, stations));
  write(out, Course.CORE, mean(cores, stations));
  write(out, Course.CORE_SPREAD, spread(cores, stations));
  compareChannels(out + ((<usize>Course.COLOURS) << 3));
}

/** The level of the picture that the next lines are measured on: 16-bit numbers, row after row. */
export function setCourseLevel(data: usize, width: i32, height: i32): void {
  plane = data;
  planeWidth = width;
  planeHeight = height;
}

/** The points that the next lines are made of: columns of 32-bit floats, in pixels of the level, with the strength of the crest. */
export function setCoursePoints(xs: usize, ys: usize, strength: usize): void {
  pointX = xs;
  pointY = ys;
  crest = strength;
}

/** The picture whose colours are compared: places of its planes, of 16 bits where `wide`, `scale` of its pixels to one of the level. */
export function setCourseColours(
  planes: usize,
  count: i32,
  wide: bool,
  width: i32,
  height: i32,
  scale: f64,
): void {
  channels = planes;
  channelCount = count;
  isWide = wide;
  pictureWidth = width;
  pictureHeight = height;
  pictureScale = scale;
}

/** Memory for {@link COURSE_COLUMNS} columns of so many 64-bit floats: the most stations or points that a line can have. */
export function setCourseRoom(room: usize, rows: i32): void {
  const column: usize = (<usize>rows) << 3;
  stationX = room;
  stationY = room + column;
  acrossX = room + 2 * column;
  acrossY = room + 3 * column;
  cores = room + 4 * column;
  left = room + 5 * column;
  right = room + 6 * column;
  sides = room + 7 * column;
  depths = room + 8 * column;
  shallower = room + 9 * column;
  widths = room + 10 * column;
  strengths = room + 11 * column;
}

/**
 * Measures lines along their courses, on the level, points, colours and room that were set before.
 *
 * @param points numbers of the points of all lines, one line after the other; `lengths` how many each has, `signs` 1 where it
 *   is darker than its sides and -1 where it is brighter
 * @param measured for each line what {@link Course} says
 */
export function measureCourses(
  points: usize,
  lengths: usize,
  signs: usize,
  lines: i32,
  measured: usize,
): void {
  let first = points;
  for (let line = 0; line < lines; line++) {
    const count = load<i32>(lengths + (line << 2));
    const out = measured + ((<usize>line * COURSE_NUMBERS) << 3);
    measureCourse(first, count, <f64>load<i32>(signs + (line << 2)), out);
    first += (<usize>count) << 2;
  }
}
