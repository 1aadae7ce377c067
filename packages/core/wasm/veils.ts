// How much variation is left when a veil is undone, and the way down for its parameters. All places are bytes.
import { sumOf } from './lanes';
import { logarithm } from './logarithm';

/** Parameters of a veil's shape; the light of each channel follows them. */
const SHAPE: i32 = 7;
const DEPTH: i32 = 6;
const HALF_PI: f32 = 1.5707963267948966;
const BY_PI: f32 = 0.3183098861837907;

/** What is known of the patch and the veil, in 64-bit floats. */
const LEFT: usize = 0;
const TOP: usize = 8;
const SCALE: usize = 16;
const BLUR: usize = 24;
const POINT: usize = 32;
/** Rounding, gain and contrast of each channel stand behind the point, which may have three lights. */
const CHANNELS: usize = POINT + ((SHAPE + 3) << 3);

// The samples a veil may change; on the outermost it is 0 unless the patch ends there.
let firstX: i32 = 0;
let endX: i32 = 0;
let firstY: i32 = 0;
let endY: i32 = 0;

/** The inverse sine of four numbers from -1 to 1, off by less than 1e-6. (Moshier, Cephes library, asinf.) */
function arcsine(x: v128): v128 {
  const size = f32x4.abs(x);
  const isFar = f32x4.gt(size, f32x4.splat(0.5));
  const half = f32x4.mul(f32x4.sub(f32x4.splat(1), size), f32x4.splat(0.5));
  const z = v128.bitselect(half, f32x4.mul(size, size), isFar);
  const s = v128.bitselect(f32x4.sqrt(half), size, isFar);
  let p = f32x4.add(f32x4.mul(f32x4.splat(4.2163199048e-2), z), f32x4.splat(2.4181311049e-2));
  p = f32x4.add(f32x4.mul(p, z), f32x4.splat(4.5470025998e-2));
  p = f32x4.add(f32x4.mul(p, z), f32x4.splat(7.4953002686e-2));
  p = f32x4.add(f32x4.mul(p, z), f32x4.splat(1.6666752422e-1));
  const near = f32x4.add(f32x4.mul(f32x4.mul(p, z), s), s);
  const far = f32x4.sub(f32x4.splat(HALF_PI), f32x4.add(near, near));
  const value = v128.bitselect(far, near, isFar);
  // The sign goes over as it is.
  return v128.or(value, v128.and(x, i32x4.splat(0x80000000)));
}

/** Where the veil reaches, nowhere if it lies beside the patch; see the fit's own bounds for what keeps the shear below 1. */
function span(known: usize, width: i32, height: i32, r: f64, border: f64): void {
  const scale = load<f64>(known, SCALE);
  const a = load<f64>(known, POINT + 32);
  const b = load<f64>(known, POINT + 40);
  const reach = ((r * (1 + border)) / (1 - sqrt(a * a + b * b)) + scale) / scale;
  const x = (load<f64>(known, POINT) - load<f64>(known, LEFT)) / scale;
  const y = (load<f64>(known, POINT + 8) - load<f64>(known, TOP)) / scale;
  firstX = <i32>max(0, floor(x - reach));
  endX = max(firstX, <i32>min(<f64>width, ceil(x + reach) + 1));
  firstY = <i32>max(0, floor(y - reach));
  endY = max(firstY, <i32>min(<f64>height, ceil(y + reach) + 1));
}

/**
 * Lays the veil on the samples it reaches: `a`, the logarithm of what it lets through, and how `a` changes with each
 * parameter of its shape; one plane behind the other from `shape` on. Up to three samples behind a row are written too.
 */
function lay(known: usize, width: i32, height: i32, stride: usize, shape: usize): void {
  const scale = <f32>load<f64>(known, SCALE);
  const r = load<f64>(known, POINT + 16);
  const softness = load<f64>(known, POINT + 24);
  const shearA = <f32>load<f64>(known, POINT + 32);
  const shearB = <f32>load<f64>(known, POINT + 40);
  const depth = f32x4.splat(<f32>load<f64>(known, POINT + 48));
  const pixel = (load<f64>(known, BLUR) * load<f64>(known, SCALE)) / r;
  const border = sqrt(softness * softness + pixel * pixel);
  span(known, width, height, r, border);
  const fromX = <f32>(load<f64>(known, LEFT) - load<f64>(known, POINT));
  const fromY = <f32>(load<f64>(known, TOP) - load<f64>(known, POINT + 8));
  const one = f32x4.splat(1);
  const byRadius = f32x4.splat(<f32>(1 / r));
  const byBorder = f32x4.splat(<f32>(1 / border));
  const byWidth = f32x4.splat(<f32>(1 / (border * r)));
  const ofSoftness = f32x4.splat(<f32>(softness / (border * border)));
  const ofPixel = f32x4.splat(<f32>((pixel * pixel) / (border * border)));
  const plusA = f32x4.splat(1 + shearA);
  const minusA = f32x4.splat(1 - shearA);
  const b = f32x4.splat(shearB);
  const step = f32x4.splat(4 * scale);
  for (let y = firstY; y < endY; y++) {
    const dy = f32x4.splat(fromY + (<f32>y + 0.5) * scale);
    const start = fromX + (<f32>firstX + 0.5) * scale;
    let dx = f32x4.add(f32x4.splat(start), f32x4.mul(f32x4.splat(scale), f32x4(0, 1, 2, 3)));
    const alongY = f32x4.mul(b, dy);
    const acrossY = f32x4.mul(minusA, dy);
    let at = shape + ((<usize>(y * width + firstX)) << 2);
    for (let x = firstX; x < endX; x += 4) {
      const qx = f32x4.add(f32x4.mul(plusA, dx), alongY);
      const qy = f32x4.add(f32x4.mul(b, dx), acrossY);
      const distance = f32x4.add(
        f32x4.sqrt(f32x4.add(f32x4.mul(qx, qx), f32x4.mul(qy, qy))),
        f32x4.splat(1e-9),
      );
      const free = f32x4.mul(f32x4.sub(one, f32x4.mul(distance, byRadius)), byBorder);
      const t = f32x4.min(one, f32x4.max(f32x4.splat(-1), free));
      const chord = f32x4.sqrt(f32x4.sub(one, f32x4.mul(t, t)));
      const inside = f32x4.add(
        f32x4.splat(0.5),
        f32x4.mul(f32x4.add(f32x4.mul(t, chord), arcsine(t)), f32x4.splat(BY_PI)),
      );
      const byT = f32x4.mul(f32x4.mul(depth, chord), f32x4.splat(2 * BY_PI));
      const byDistance = f32x4.neg(f32x4.mul(byT, byWidth));
      const towards = f32x4.div(byDistance, distance);
      const amount = f32x4.mul(depth, inside);
      v128.store(at, amount);
      v128.store(at + stride, logarithm(f32x4.sub(one, amount)));
      let onto = at + 2 * stride;
      v128.store(onto, f32x4.neg(f32x4.mul(towards, f32x4.add(f32x4.mul(qx, plusA), f32x4.mul(qy, b)))));
      onto += stride;
      v128.store(onto, f32x4.neg(f32x4.mul(towards, f32x4.add(f32x4.mul(qx, b), f32x4.mul(qy, minusA)))));
      onto += stride;
      // A larger veil has a narrower border in radii where that is a sample's own blur.
      v128.store(onto, f32x4.sub(f32x4.mul(f32x4.mul(byT, t), ofPixel), f32x4.mul(byDistance, distance)));
      onto += stride;
      v128.store(onto, f32x4.neg(f32x4.mul(f32x4.mul(byT, t), ofSoftness)));
      onto += stride;
      v128.store(onto, f32x4.mul(towards, f32x4.sub(f32x4.mul(qx, dx), f32x4.mul(qy, dy))));
      onto += stride;
      v128.store(onto, f32x4.mul(towards, f32x4.add(f32x4.mul(qx, dy), f32x4.mul(qy, dx))));
      onto += stride;
      v128.store(onto, inside);
      dx = f32x4.add(dx, step);
      at += 16;
    }
  }
}

/**
 * Undoes the veil on one channel. Writes what is left, then how that changes with each free parameter of the shape and,
 * where the veil is lit, with its light; one plane behind the other from `undone` on.
 */
function undo(
  seen: usize,
  width: i32,
  stride: usize,
  shape: usize,
  undone: usize,
  free: usize,
  shapeCount: i32,
  isLit: bool,
  light: f32,
): void {
  const bright = f32x4.splat(light);
  const one = f32x4.splat(1);
  for (let y = firstY; y < endY; y++) {
    const row = (<usize>(y * width + firstX)) << 2;
    const end = row + ((<usize>(endX - firstX)) << 2);
    for (let i = row; i < end; i += 16) {
      const value = v128.load(seen + i);
      const amount = v128.load(shape + i);
      const by = f32x4.div(one, f32x4.sub(one, amount));
      let left: v128;
      let byAmount = by;
      if (isLit) {
        left = f32x4.mul(f32x4.sub(value, f32x4.mul(amount, bright)), by);
        byAmount = f32x4.mul(f32x4.sub(left, bright), by);
      } else left = f32x4.sub(value, v128.load(shape + stride + i));
      v128.store(undone + i, left);
      let onto = undone + stride + i;
      for (let q = 0; q < shapeCount; q++) {
        const slope = shape + (2 + load<i32>(free + (q << 2))) * stride;
        v128.store(onto, f32x4.mul(byAmount, v128.load(slope + i)));
        onto += stride;
      }
      if (isLit) v128.store(onto, f32x4.neg(f32x4.mul(amount, by)));
    }
  }
}

/**
 * Adds up one channel's steps from each sample to the one `along` bytes on: their cost, and four sums at a time of the
 * products of their changes (row after row of the lower triangle, then with the step itself).
 *
 * @param rows room for a row of each change and of the step
 */
function addSteps(
  seen: usize,
  mask: usize,
  width: i32,
  stride: usize,
  shape: usize,
  undone: usize,
  count: i32,
  along: usize,
  rounding: f32,
  gain: f32,
  contrast: f32,
  rows: usize,
  rowBytes: usize,
  sums: usize,
): f64 {
  // The outermost samples carry nothing, so pairs that leave the span need no look.
  const lastX = along === 4 ? endX - 1 : endX;
  const lastY = along === 4 ? endY : endY - 1;
  const least = f32x4.splat(rounding * rounding);
  const worth = f32x4.splat(gain);
  const lift = f32x4.splat(contrast);
  const zero = f32x4.splat(0);
  let cost: f64 = 0;
  for (let y = firstY; y < lastY; y++) {
    const row = (<usize>(y * width + firstX)) << 2;
    const left = lastX - firstX;
    let costs = zero;
    for (let k = 0; k < left; k += 4) {
      const i = row + ((<usize>k) << 2);
      const j = i + along;
      const here = v128.load(shape + i);
      const there = v128.load(shape + j);
      let counts = f32x4.gt(f32x4.mul(v128.load(mask + i), v128.load(mask + j)), zero);
      // Where the veil is as deep on both sides, a shadow changes nothing; nor does any veil where it is not.
      let differs = f32x4.ne(here, there);
      if (contrast > 0) differs = v128.or(differs, f32x4.ne(here, zero));
      counts = v128.and(counts, differs);
      // Samples behind the row's end belong to no pair.
      counts = v128.and(counts, i32x4.lt_s(i32x4.add(i32x4.splat(k), i32x4(0, 1, 2, 3)), i32x4.splat(left)));
      const before = f32x4.sub(v128.load(seen + j), v128.load(seen + i));
      const after = f32x4.sub(v128.load(undone + j), v128.load(undone + i));
      const length = f32x4.sqrt(f32x4.add(f32x4.mul(after, after), least));
      const was = f32x4.sqrt(f32x4.add(f32x4.mul(before, before), least));
      let dear = f32x4.mul(worth, f32x4.sub(length, was));
      if (contrast > 0) {
        const through = f32x4.add(v128.load(shape + stride + i), v128.load(shape + stride + j));
        dear = f32x4.add(dear, f32x4.mul(lift, through));
      }
      costs = f32x4.add(costs, v128.and(dear, counts));
      // Iteratively reweighted least squares: the length of a step as its square over its last length.
      const weight = v128.and(f32x4.sqrt(f32x4.div(worth, length)), counts);
      let onto = rows + ((<usize>k) << 2);
      let change = undone + stride;
      for (let q = 0; q < count; q++) {
        const by = f32x4.sub(v128.load(change + j), v128.load(change + i));
        // Nothing comes of a sample that was never written, whatever it holds.
        v128.store(onto, v128.and(f32x4.mul(weight, by), counts));
        onto += rowBytes;
        change += stride;
      }
      v128.store(onto, v128.and(f32x4.mul(weight, after), counts));
    }
    cost += sumOf(costs);
    addProducts(rows, rowBytes, count, (<usize>((left + 3) & ~3)) << 2, sums);
  }
  return cost;
}

/** Adds the products of the changes of one row with each other, and of the step with each change. */
function addProducts(rows: usize, rowBytes: usize, count: i32, bytes: usize, sums: usize): void {
  let sum = sums;
  // The last row of products is that of the step with each change.
  for (let a = 0; a <= count; a++) {
    const one = rows + a * rowBytes;
    const columns = min(a + 1, count);
    for (let b = 0; b < columns; b++) {
      const other = rows + b * rowBytes;
      let products = v128.load(sum);
      for (let k: usize = 0; k < bytes; k += 16)
        products = f32x4.add(products, f32x4.mul(v128.load(one + k), v128.load(other + k)));
      v128.store(sum, products);
      sum += 16;
    }
  }
}

/** How many of the free parameters are those of the shape; they stand first. */
function shapeFree(free: usize, freeCount: i32): i32 {
  let count = 0;
  while (count < freeCount && load<i32>(free + (count << 2)) <= DEPTH) count++;
  return count;
}

/** Which of the free parameters is the light of a channel; -1 where it is not free. */
function lightFree(free: usize, freeCount: i32, channel: i32): i32 {
  for (let q = freeCount - 1; q >= 0; q--) if (load<i32>(free + (q << 2)) === SHAPE + channel) return q;
  return -1;
}

/** Adds the sums of one channel to the normal equations: its last change is that of its light, where that is free. */
function addToEquations(
  sums: usize,
  shapeCount: i32,
  lightAt: i32,
  freeCount: i32,
  matrix: usize,
  right: usize,
): void {
  const count = shapeCount + (lightAt >= 0 ? 1 : 0);
  let sum = sums;
  for (let a = 0; a < count; a++) {
    const row = a < shapeCount ? a : lightAt;
    for (let b = 0; b <= a; b++) {
      const column = b < shapeCount ? b : lightAt;
      const onto = matrix + ((<usize>(row * freeCount + column)) << 3);
      store<f64>(onto, load<f64>(onto) + sumOf(v128.load(sum)));
      sum += 16;
    }
  }
  for (let b = 0; b < count; b++) {
    const onto = right + ((<usize>(b < shapeCount ? b : lightAt)) << 3);
    store<f64>(onto, load<f64>(onto) - sumOf(v128.load(sum)));
    sum += 16;
  }
}

/**
 * The variation that is left on a patch when a veil is undone, less that of the patch as it is, and the normal equations
 * for its free parameters.
 *
 * @param known left, top, scale, blur of a sample; centre, radius (in pixels, not its logarithm), softness, both shears, depth and the lights of the
 *   veil (room for three); rounding, gain and contrast of each channel: 64-bit floats
 * @param seen planes of 32-bit floats, each of `stride` bytes (with room for four samples behind the last)
 * @param mask 1 where a sample is known and 0 where it is not, 32-bit floats
 * @param free 32-bit numbers of the free parameters, those of the shape first
 * @param work room for 18 planes, then for nine rows and four samples, then for 45 times 16 bytes
 * @param found the cost, `freeCount` squared values of which the lower triangle is added to, and `freeCount` of minus the
 *   gradient: 64-bit floats
 */
export function describeVeil(
  known: usize,
  seen: usize,
  mask: usize,
  width: i32,
  height: i32,
  stride: usize,
  channels: i32,
  isLit: bool,
  free: usize,
  freeCount: i32,
  work: usize,
  found: usize,
): void {
  const shape = work;
  const undone = shape + 9 * stride;
  const rows = undone + 9 * stride;
  const rowBytes = (<usize>((width + 7) & ~3)) << 2;
  const sums = rows + 9 * rowBytes;
  const matrix = found + 8;
  const right = matrix + ((<usize>(freeCount * freeCount)) << 3);
  lay(known, width, height, stride, shape);
  const shapeCount = shapeFree(free, freeCount);
  let cost: f64 = 0;
  for (let c = 0; c < channels; c++) {
    const lightAt = lightFree(free, freeCount, c);
    const light = <f32>load<f64>(known + POINT + ((<usize>(SHAPE + c)) << 3));
    const plane = seen + c * stride;
    undo(plane, width, stride, shape, undone, free, shapeCount, isLit, light);
    const channel = known + CHANNELS + c * 24;
    const count = shapeCount + (lightAt >= 0 ? 1 : 0);
    memory.fill(sums, 0, 45 << 4);
    for (let way = 0; way < 2; way++)
      cost += addSteps(
        plane,
        mask,
        width,
        stride,
        shape,
        undone,
        count,
        way === 0 ? 4 : (<usize>width) << 2,
        <f32>load<f64>(channel),
        <f32>load<f64>(channel, 8),
        <f32>load<f64>(channel, 16),
        rows,
        rowBytes,
        sums,
      );
    addToEquations(sums, shapeCount, lightAt, freeCount, matrix, right);
  }
  store<f64>(found, cost);
}
