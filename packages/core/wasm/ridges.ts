// Crests of thin lines: listed, measured and linked. All offsets are bytes; tables are columns of numbers.

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
 * @param at index of the pixel; `x`, `y` the crest in pixels; `ways` three 64-bit floats: the direction along the line of 0
 *   to pi, to the accuracy of a 32-bit one, its cosine and its sine; `strength` the curvature over the usual one; `under`
 *   the size of the strength of the point that the crest lies on, which is a neighbour's now and then, or 0
 * @param map of the plane's size, 0: the number of the point and 1 for every pixel
 * @returns how many there are
 */
export function placeCrests(
  listed: usize,
  bent: i32,
  data: usize,
  width: i32,
  usual: usize,
  side: i32,
  columns: i32,
  at: usize,
  xs: usize,
  ys: usize,
  ways: usize,
  strength: usize,
  under: usize,
  map: usize,
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
    store<i32>(at + (count << 2), i);
    store<f32>(xs + (count << 2), <f32>(<f64>x + 0.5 + off * nx));
    store<f32>(ys + (count << 2), <f32>(<f64>y + 0.5 + off * ny));
    // Of the two arrows along the line the one that points down, or to the right.
    const arrow: f64 = nx > 0 || (nx === 0 && ny < 0) ? 1 : -1;
    store<f64>(ways + count * 24, <f64>(<f32>Math.atan2(arrow * nx, -arrow * ny)));
    store<f64>(ways + count * 24, -arrow * ny, 8);
    store<f64>(ways + count * 24, arrow * nx, 16);
    store<f32>(strength + (count << 2), <f32>(most / common));
    count++;
    store<i32>(map + (i << 2), count);
  }
  for (let k = 0; k < count << 2; k += 4) {
    const place = <i32>load<f32>(ys + k) * width + <i32>load<f32>(xs + k);
    const other = load<i32>(map + (place << 2)) - 1;
    store<f32>(under + k, other >= 0 ? abs(load<f32>(strength + (other << 2))) : 0);
  }
  return count;
}

/** Two points that follow one another turn by at most this, radians. */
const MOST_TURN: f64 = Math.PI / 4;
/** Shorter paths are no lines, in pixels. */
const SHORTEST: i32 = 8;

// The points that are linked: set by `linkCrests`, read by what it calls.
let pointsAt: usize = 0;
let pointsX: usize = 0;
let pointsY: usize = 0;
/** Angle, its cosine and its sine, as 64-bit floats one after the other. */
let pointsWay: usize = 0;
let pointsStrength: usize = 0;
let pointsMap: usize = 0;
let planeWidth: i32 = 0;
let planeSize: i32 = 0;

/** The least angle between the direction of a point and a heading, which is less than a whole turn. */
function turnTo(k: i32, heading: f64): f64 {
  let turn = abs(load<f64>(pointsWay + k * 24) - heading);
  if (turn >= Math.PI) turn -= Math.PI;
  return min(turn, Math.PI - turn);
}

// The best of the points that were held against one another so far, what it costs, and what they go on from.
let best: i32 = -1;
let leastCost: f64 = 0;
let fromX: f64 = 0;
let fromY: f64 = 0;
let isFromDark: bool = false;

/** Holds the point at a place of the map, if there is one, against the best so far. */
function consider(place: usize, heading: f64, cos: f64, sin: f64): void {
  const k = load<i32>(place) - 1;
  if (k < 0 || load<f32>(pointsStrength + (k << 2)) > 0 !== isFromDark) return;
  const ox = <f64>load<f32>(pointsX + (k << 2)) - fromX;
  const oy = <f64>load<f32>(pointsY + (k << 2)) - fromY;
  const along = ox * cos + oy * sin;
  const aside = abs(oy * cos - ox * sin);
  if (along <= 0.2 || aside > along) return;
  const turn = turnTo(k, heading);
  if (turn > MOST_TURN) return;
  const cost = sqrt(ox * ox + oy * oy) + 2 * turn + aside;
  if (cost >= leastCost) return;
  best = k;
  leastCost = cost;
}

/** The point that goes on best from one, heading some way; -1 where the line ends. */
function nextFrom(from: i32, heading: f64, cos: f64, sin: f64): i32 {
  isFromDark = load<f32>(pointsStrength + (from << 2)) > 0;
  fromX = <f64>load<f32>(pointsX + (from << 2));
  fromY = <f64>load<f32>(pointsY + (from << 2));
  best = -1;
  leastCost = f64.MAX_VALUE;
  const at = load<i32>(pointsAt + (from << 2));
  for (let dy = -2; dy <= 2; dy++) {
    const first = at + dy * planeWidth - 2;
    if (first < 0 || first + 5 > planeSize) continue;
    const place: usize = pointsMap + (first << 2);
    // Most places are empty.
    let mask = i32x4.bitmask(i32x4.gt_s(v128.load(place), i32x4.splat(0)));
    while (mask !== 0) {
      consider(place + (ctz(mask) << 2), heading, cos, sin);
      mask &= mask - 1;
    }
    consider(place + 16, heading, cos, sin);
  }
  return best;
}

/** Takes a point off the map: no other line goes through it. */
function takePoint(k: i32): void {
  store<i32>(pointsMap + (load<i32>(pointsAt + (k << 2)) << 2), 0);
}

/** Follows a line from a seed, ahead or back. @returns where the list ends after it */
function follow(seed: i32, isAhead: bool, onto: usize): usize {
  let end = onto;
  let from = seed;
  let angle = load<f64>(pointsWay + seed * 24);
  let cos = load<f64>(pointsWay + seed * 24 + 8);
  let sin = load<f64>(pointsWay + seed * 24 + 16);
  let isTurned = !isAhead;
  let wayCos = isTurned ? -cos : cos;
  let waySin = isTurned ? -sin : sin;
  let k = nextFrom(from, isTurned ? angle + Math.PI : angle, wayCos, waySin);
  while (k >= 0) {
    takePoint(k);
    store<i32>(end, k);
    end += 4;
    from = k;
    angle = load<f64>(pointsWay + k * 24);
    cos = load<f64>(pointsWay + k * 24 + 8);
    sin = load<f64>(pointsWay + k * 24 + 16);
    // The line's own direction, with the arrow that goes on.
    isTurned = cos * wayCos + sin * waySin < 0;
    wayCos = isTurned ? -cos : cos;
    waySin = isTurned ? -sin : sin;
    k = nextFrom(from, isTurned ? angle + Math.PI : angle, wayCos, waySin);
  }
  return end;
}

function turnRound(first: usize, end: usize): void {
  let a = first;
  let b = end - 4;
  while (a < b) {
    const kept = load<i32>(a);
    store<i32>(a, load<i32>(b));
    store<i32>(b, kept);
    a += 4;
    b -= 4;
  }
}

/**
 * Links points of crests that follow one another, from the strongest down; each point belongs to one path.
 *
 * @param seeds numbers of points, the strongest first; `count` points there are in all
 * @param ways for each point its angle of 0 to pi, the cosine and the sine of it, as 64-bit floats
 * @param map room for a 32-bit number for every pixel
 * @param points the numbers of the points of all paths, one after the other
 * @param lengths how many points each path has
 * @returns how many paths there are
 */
export function linkCrests(
  seeds: usize,
  seedCount: i32,
  count: i32,
  at: usize,
  xs: usize,
  ys: usize,
  ways: usize,
  strength: usize,
  map: usize,
  width: i32,
  height: i32,
  points: usize,
  lengths: usize,
): i32 {
  pointsAt = at;
  pointsX = xs;
  pointsY = ys;
  pointsWay = ways;
  pointsStrength = strength;
  pointsMap = map;
  planeWidth = width;
  planeSize = width * height;
  memory.fill(map, 0, (<usize>planeSize) << 2);
  for (let k = 0; k < count; k++) store<i32>(map + (load<i32>(at + (k << 2)) << 2), k + 1);
  let paths = 0;
  let first = points;
  for (let s = 0; s < seedCount; s++) {
    const seed = load<i32>(seeds + (s << 2));
    if (load<i32>(map + (load<i32>(at + (seed << 2)) << 2)) === 0) continue;
    takePoint(seed);
    // What lies ahead is found first, and written after what lies behind.
    const aheadEnd = follow(seed, true, first);
    const ahead = <i32>(aheadEnd - first);
    const backEnd = follow(seed, false, aheadEnd);
    const back = <i32>(backEnd - aheadEnd);
    const length = ((ahead + back) >> 2) + 1;
    if (length < SHORTEST) continue;
    memory.copy(backEnd + 4, first, ahead);
    memory.copy(first, aheadEnd, back);
    turnRound(first, first + back);
    store<i32>(first + back, seed);
    memory.copy(first + back + 4, backEnd + 4, ahead);
    const one = load<i32>(first) << 2;
    const other = load<i32>(first + ((length - 1) << 2)) << 2;
    const dx = <f64>load<f32>(xs + other) - <f64>load<f32>(xs + one);
    const dy = <f64>load<f32>(ys + other) - <f64>load<f32>(ys + one);
    if (sqrt(dx * dx + dy * dy) < <f64>SHORTEST / 2) continue;
    store<i32>(lengths + (paths << 2), length);
    paths++;
    first += length << 2;
  }
  return paths;
}
