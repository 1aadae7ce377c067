// What stands out from a median, classified and replaced. All places are bytes; values are 32-bit floats, marks bytes, in
// planes without gaps between rows.

/** A speck stands alone: of its surroundings less than this share comes up to half of its height. */
const SHARED: f64 = 0.3;
/** A square has no donor. */
const NONE: i32 = i32.MIN_VALUE;

/**
 * How far each pixel stands out from its median, in thresholds: from 1 on it is marked.
 *
 * @param bounds the threshold by tone, in values
 * @param finest entries of it to a step of the values
 * @param way 1 for what is brighter, -1 for what is darker, 0 for both
 */
export function standOutBy(
  luma: usize,
  median: usize,
  count: i32,
  bounds: usize,
  finest: f32,
  way: i32,
  out: usize,
  marks: usize,
): void {
  for (let i = 0; i < count; i++) {
    const under = load<f32>(median + (i << 2));
    const departs = load<f32>(luma + (i << 2)) - under;
    const signed = way > 0 ? departs : way < 0 ? -departs : abs(departs);
    const bound = load<f32>(bounds + ((<i32>(under * finest + 0.5)) << 2));
    const times = bound > 0 ? signed / bound : signed >= 0 ? <f32>Infinity : 0;
    store<f32>(out + (i << 2), times);
    store<u8>(marks + i, times >= 1 ? 1 : 0);
  }
}

/** Lists all pixels that hang together with the first one, eight neighbours each, and tells them 1. */
function listPart(start: i32, marks: usize, width: i32, height: i32, classes: usize, part: usize): i32 {
  let length = 1;
  store<i32>(part, start);
  store<u8>(classes + start, 1);
  for (let next = 0; next < length; next++) {
    const pixel = load<i32>(part + (next << 2));
    const y = pixel / width;
    const x = pixel - y * width;
    const right = min(width - 1, x + 1);
    const bottom = min(height - 1, y + 1);
    for (let row = max(0, y - 1); row <= bottom; row++)
      for (let at = row * width + max(0, x - 1); at <= row * width + right; at++) {
        if (load<u8>(marks + at) === 0 || load<u8>(classes + at) !== 0) continue;
        store<u8>(classes + at, 1);
        store<i32>(part + (length << 2), at);
        length++;
      }
  }
  return length;
}

/** How long or wide a part is, whichever is more. */
function extentOf(part: usize, length: i32, width: i32): i32 {
  let left = i32.MAX_VALUE;
  let right = -1;
  let top = i32.MAX_VALUE;
  let bottom = -1;
  for (let k = 0; k < length; k++) {
    const pixel = load<i32>(part + (k << 2));
    const y = pixel / width;
    const x = pixel - y * width;
    left = min(left, x);
    right = max(right, x);
    top = min(top, y);
    bottom = max(bottom, y);
  }
  return max(right - left, bottom - top) + 1;
}

/** True if a part is the rim of something larger, to which the rest of it belongs. */
function isRim(
  part: usize,
  length: i32,
  marks: usize,
  luma: usize,
  median: usize,
  width: i32,
  height: i32,
  around: i32,
  lookedAt: usize,
): bool {
  let own: f64 = 0;
  let under: f64 = 0;
  for (let k = 0; k < length; k++) {
    const at = load<i32>(part + (k << 2)) << 2;
    own += <f64>load<f32>(luma + at) / <f64>length;
    under += <f64>load<f32>(median + at) / <f64>length;
  }
  const half = (own + under) / 2;
  const isBright = own > half;
  // Told apart by a pixel of its own: no other part has it.
  const name = load<i32>(part) + 1;
  let seen = 0;
  let alike = 0;
  for (let k = 0; k < length; k++) {
    const pixel = load<i32>(part + (k << 2));
    const y = pixel / width;
    const x = pixel - y * width;
    const right = min(width - 1, x + around);
    const bottom = min(height - 1, y + around);
    for (let row = max(0, y - around); row <= bottom; row++)
      for (let at = row * width + max(0, x - around); at <= row * width + right; at++) {
        if (load<u8>(marks + at) !== 0 || load<i32>(lookedAt + (at << 2)) === name) continue;
        store<i32>(lookedAt + (at << 2), name);
        seen++;
        const value = <f64>load<f32>(luma + (at << 2));
        if (isBright ? value > half : value < half) alike++;
      }
  }
  return <f64>alike > SHARED * <f64>seen;
}

/**
 * Tells specks that stand alone, 1, from details of the subject, 2: what is at least so long or wide, and what is the rim of
 * something larger.
 *
 * @param around how far from a part its surroundings are looked at, in pixels
 * @param classes 0 everywhere; what each is, is written here
 * @param lookedAt 0 everywhere, of 32 bits for each pixel
 * @param part room of 32 bits for each pixel
 */
export function tellSpecks(
  marks: usize,
  luma: usize,
  median: usize,
  width: i32,
  height: i32,
  detail: i32,
  around: i32,
  classes: usize,
  lookedAt: usize,
  part: usize,
): void {
  const count = width * height;
  for (let start = 0; start < count; start++) {
    if (load<u8>(marks + start) === 0 || load<u8>(classes + start) !== 0) continue;
    const length = listPart(start, marks, width, height, classes, part);
    if (
      extentOf(part, length, width) >= detail ||
      isRim(part, length, marks, luma, median, width, height, around, lookedAt)
    )
      for (let k = 0; k < length; k++) store<u8>(classes + load<i32>(part + (k << 2)), 2);
  }
}

/** Marks all pixels within a few of those with one mark; `onto` is 0 everywhere. */
export function spreadMarks(marks: usize, mark: i32, width: i32, height: i32, by: i32, onto: usize): void {
  const count = width * height;
  for (let i = 0; i < count; i++) {
    if (<i32>load<u8>(marks + i) !== mark) continue;
    const y = i / width;
    const x = i - y * width;
    const right = min(width - 1, x + by);
    const bottom = min(height - 1, y + by);
    for (let row = max(0, y - by); row <= bottom; row++)
      for (let at = row * width + max(0, x - by); at <= row * width + right; at++) store<u8>(onto + at, 1);
  }
}

/** A whole number from the place of a square and a try, the same in every piece. */
function mixed(x: i32, y: i32, turn: i32, seed: i32): u32 {
  let value = <u32>((x * 0x9e3779b1) ^ (y * 0x85ebca6b) ^ ((turn + 1) * 0x27d4eb2f) ^ seed);
  value = (value ^ (value >>> 15)) * 0x2c1b3c6d;
  return value ^ (value >>> 13);
}

/**
 * Replaces what stands out by the median with the grain of a place nearby: what that place has above its own median.
 *
 * @param planes of the picture, `channels` of them one behind the other, each of `width` x `height`
 * @param medians the same of its medians
 * @param near 1 where something may go; `kept` 1 where nothing may; `taken` 1 where no grain is taken from
 * @param values planes of the piece, one behind the other; changed in place
 * @param by numbers of 32 bits: left, top, width and height of the piece in the planes; left and top of the planes in the
 *   picture; the seed; the side of a square; how many places are tried; how far away they may be
 * @param from the share of the threshold from which on a rim goes
 * @param isPlain whether all goes that stands out at all, without grain
 * @param donors 0, of 32 bits for every square that meets the planes
 * @param ways cosines, then sines, of 65,536 angles, of 64 bits
 */
export function layGrains(
  planes: usize,
  medians: usize,
  channels: i32,
  width: i32,
  height: i32,
  out: usize,
  near: usize,
  kept: usize,
  taken: usize,
  values: usize,
  by: usize,
  from: f64,
  isPlain: bool,
  donors: usize,
  ways: usize,
): void {
  const left = load<i32>(by);
  const top = load<i32>(by, 4);
  const wide = load<i32>(by, 8);
  const high = load<i32>(by, 12);
  const pictureLeft = load<i32>(by, 16);
  const pictureTop = load<i32>(by, 20);
  const side = load<i32>(by, 28);
  const firstX = pictureLeft / side;
  const firstY = pictureTop / side;
  const across = (pictureLeft + width - 1) / side - firstX + 1;
  const plane = (<usize>(width * height)) << 2;
  const piece = (<usize>(wide * high)) << 2;
  for (let y = 0; y < high; y++)
    for (let x = 0; x < wide; x++) {
      const at = (y + top) * width + x + left;
      if (load<u8>(near + at) === 0 || load<u8>(kept + at) !== 0) continue;
      const amount = shareGone(<f64>load<f32>(out + (at << 2)), from, isPlain);
      if (!(amount > 0)) continue;
      let donor = NONE;
      if (!isPlain) {
        const squareX = (pictureLeft + left + x) / side;
        const squareY = (pictureTop + top + y) / side;
        const known = donors + (((squareY - firstY) * across + squareX - firstX) << 2);
        donor = load<i32>(known);
        if (donor === 0) {
          donor = findDonor(squareX, squareY, width, height, taken, by, ways);
          store<i32>(known, donor);
        }
      }
      let here = (<usize>at) << 2;
      let onto = values + ((<usize>(y * wide + x)) << 2);
      for (let c = 0; c < channels; c++, here += plane, onto += piece) {
        const median = <f64>load<f32>(medians + here) + grainAt(planes, medians, here, donor);
        const change = amount * (median - <f64>load<f32>(planes + here));
        store<f32>(onto, <f32>(<f64>load<f32>(onto) + change));
      }
    }
}

/** How much of what stands out so far goes. */
function shareGone(stands: f64, from: f64, isPlain: bool): f64 {
  if (isPlain) return stands > 0 ? 1 : 0;
  return min(1, (stands - from) / (1 - from));
}

/** What a sample so many pixels on has above its median; 0 where there is no donor. */
function grainAt(planes: usize, medians: usize, here: usize, donor: i32): f64 {
  if (donor === NONE) return 0;
  const there = here + ((<usize>donor) << 2);
  return <f64>load<f32>(planes + there) - <f64>load<f32>(medians + there);
}

/** How many pixels on a square's grain lies: at the first of a few places at which nothing stands out. */
function findDonor(
  squareX: i32,
  squareY: i32,
  width: i32,
  height: i32,
  taken: usize,
  by: usize,
  ways: usize,
): i32 {
  const seed = load<i32>(by, 24);
  const side = load<i32>(by, 28);
  const tries = load<i32>(by, 32);
  const farthest = load<i32>(by, 36);
  for (let turn = 0; turn < tries; turn++) {
    const random = mixed(squareX, squareY, turn, seed);
    const angle = ways + ((random & 0xffff) << 3);
    const away = <f64>side + (<f64>(random >>> 16) / 65535) * <f64>(farthest - side);
    const dx = <i32>Math.floor(away * load<f64>(angle) + 0.5);
    const dy = <i32>Math.floor(away * load<f64>(angle + (65536 << 3)) + 0.5);
    const x = squareX * side + dx - load<i32>(by, 16);
    const y = squareY * side + dy - load<i32>(by, 20);
    if (x < 0 || y < 0 || x + side > width || y + side > height) continue;
    if (isFree(taken + y * width + x, side, width)) return dy * width + dx;
  }
  return NONE;
}

function isFree(taken: usize, side: i32, width: i32): bool {
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) if (load<u8>(taken + y * width + x) !== 0) return false;
  return true;
}
