// Crests that follow one another, linked. All offsets are bytes.
import { ANGLE, COS, RECORD, SIN, STRENGTH, X, Y, isMarked, markOf, numberUnder, unmark } from './crests';

/** Two points that follow one another turn by at most this, radians. */
const MOST_TURN: f64 = Math.PI / 4;
/** Shorter paths are no lines, in pixels. */
const SHORTEST: i32 = 8;

// The points that are linked: set by `linkRidgePixels`, read by what it calls.
let pointsAt: usize = 0;
let pointsRecord: usize = 0;
/** A bit for each pixel that holds a point, how many lie before each 64, and which of them no line goes through yet. */
let pointsMark: usize = 0;
let pointsBefore: usize = 0;
let pointsFree: usize = 0;
let planeWidth: i32 = 0;
let planeSize: i32 = 0;

/** The least angle between a direction and a heading, which is less than a whole turn. */
function turnBetween(angle: f64, heading: f64): f64 {
  let turn = abs(angle - heading);
  if (turn >= Math.PI) turn -= Math.PI;
  return min(turn, Math.PI - turn);
}

// The best of the points that were held against one another so far, what it costs, and what they go on from.
let best: i32 = -1;
let leastCost: f64 = 0;
let fromX: f64 = 0;
let fromY: f64 = 0;
let isFromDark: bool = false;

/** Holds a point against the best so far. */
function consider(k: i32, heading: f64, cos: f64, sin: f64): void {
  const record = pointsRecord + <usize>k * RECORD;
  if (load<f32>(record, STRENGTH) > 0 !== isFromDark) return;
  const ox = <f64>load<f32>(record, X) - fromX;
  const oy = <f64>load<f32>(record, Y) - fromY;
  const along = ox * cos + oy * sin;
  const aside = abs(oy * cos - ox * sin);
  if (along <= 0.2 || aside > along) return;
  const turn = turnBetween(<f64>load<f32>(record, ANGLE), heading);
  if (turn > MOST_TURN) return;
  const cost = sqrt(ox * ox + oy * oy) + 2 * turn + aside;
  if (cost >= leastCost) return;
  best = k;
  leastCost = cost;
}

/** The point that goes on best from one, heading some way; -1 where the line ends. */
function nextFrom(from: i32, heading: f64, cos: f64, sin: f64): i32 {
  const record = pointsRecord + <usize>from * RECORD;
  isFromDark = load<f32>(record, STRENGTH) > 0;
  fromX = <f64>load<f32>(record, X);
  fromY = <f64>load<f32>(record, Y);
  best = -1;
  leastCost = f64.MAX_VALUE;
  const at = load<i32>(pointsAt + (from << 2));
  for (let dy = -2; dy <= 2; dy++) {
    const first = at + dy * planeWidth - 2;
    if (first < 0 || first + 5 > planeSize) continue;
    // Most places are empty.
    let free = (load<u16>(markOf(pointsFree, first)) >> (<u16>(first & 7))) & 31;
    while (free !== 0) {
      consider(numberUnder(pointsMark, pointsBefore, first + ctz(free)), heading, cos, sin);
      free &= free - 1;
    }
  }
  return best;
}

/** Takes a point off: no other line goes through it. */
function takePoint(k: i32): void {
  unmark(pointsFree, load<i32>(pointsAt + (k << 2)));
}

/** Follows a line from a seed, ahead or back. @returns where the list ends after it */
function follow(seed: i32, isAhead: bool, onto: usize): usize {
  let end = onto;
  let from = seed;
  let record = pointsRecord + <usize>seed * RECORD;
  let angle = <f64>load<f32>(record, ANGLE);
  let cos = load<f64>(record, COS);
  let sin = load<f64>(record, SIN);
  let isTurned = !isAhead;
  let wayCos = isTurned ? -cos : cos;
  let waySin = isTurned ? -sin : sin;
  let k = nextFrom(from, isTurned ? angle + Math.PI : angle, wayCos, waySin);
  while (k >= 0) {
    takePoint(k);
    store<i32>(end, k);
    end += 4;
    from = k;
    record = pointsRecord + <usize>k * RECORD;
    angle = <f64>load<f32>(record, ANGLE);
    cos = load<f64>(record, COS);
    sin = load<f64>(record, SIN);
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
 * @param seeds numbers of points, the strongest first
 * @param records see crests.ts; `at` the index of the pixel of each, `marks` and `before` as `placeRidgePixels` left them
 * @param free room for as much as `marks`
 * @param points the numbers of the points of all paths, one after the other
 * @param lengths how many points each path has
 * @returns how many paths there are
 */
export function linkRidgePixels(
  seeds: usize,
  seedCount: i32,
  at: usize,
  records: usize,
  marks: usize,
  before: usize,
  free: usize,
  width: i32,
  height: i32,
  points: usize,
  lengths: usize,
): i32 {
  pointsAt = at;
  pointsRecord = records;
  pointsMark = marks;
  pointsBefore = before;
  pointsFree = free;
  planeWidth = width;
  planeSize = width * height;
  memory.copy(free, marks, (((<usize>planeSize + 63) >> 6) << 3) + 8);
  let paths = 0;
  let first = points;
  for (let s = 0; s < seedCount; s++) {
    const seed = load<i32>(seeds + (s << 2));
    if (!isMarked(free, load<i32>(at + (seed << 2)))) continue;
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
    const one = records + <usize>load<i32>(first) * RECORD;
    const other = records + <usize>load<i32>(first + ((length - 1) << 2)) * RECORD;
    const dx = <f64>load<f32>(other, X) - <f64>load<f32>(one, X);
    const dy = <f64>load<f32>(other, Y) - <f64>load<f32>(one, Y);
    if (sqrt(dx * dx + dy * dy) < <f64>SHORTEST / 2) continue;
    store<i32>(lengths + (paths << 2), length);
    paths++;
    first += length << 2;
  }
  return paths;
}
