import { CELL, usualStep } from '../examine/specks/usualStep.ts';
import { rimOf } from '../examine/specks/rim.ts';
import { DIRECTIONS } from '../kernels/layout.ts';
import { holdLuma } from '../examine/ground/heldLuma.ts';
import type { LumaPlane } from '../examine/ground/lumaLevels.ts';
import { createLumaPlane } from '../examine/ground/lumaLevels.ts';

/** Rims of one radius on one level of the sensor, added up over frames. */
export interface RimPool {
  readonly radius: number;
  /** Places lie at every so many pixels across and down. */
  readonly every: number;
  readonly columns: number;
  readonly rows: number;
  /** Mean step across the rim with each cut to the usual one, {@link UNIT} for a whole one, added up over frames. */
  readonly sums: Int16Array;
  /** Sum over frames of the variance of that mean over the frame, in whole steps. */
  variance: number;
}

/** A whole step in a pool's sums: small enough for 16 bit to hold those of {@link MOST_POOLED} frames. */
export const UNIT = 100;
/** More frames than this are not added up: so many leave nothing undecided. */
export const MOST_POOLED = 300;

/** Radii on a level, in its pixels; each is 2 to the power of a quarter above the last. */
const RADII = [3.5, 4.2, 5, 5.95];
/** On the finest level the smallest as well: at every pixel, since their rims are as narrow. */
const SMALL_RADII = [2.5, 3];
/** On larger sensors so small a shadow is no disturbance, and every other pixel is near enough to its middle. */
const SMALL_SENSOR = 5e6;

/** Radii that are pooled on a level of a sensor. */
export function createPools(
  { width, height }: { width: number; height: number },
  kind: 'finest' | 'coarser',
): RimPool[] {
  const pool = (radius: number, every: number): RimPool => {
    const [columns, rows] = [Math.ceil(width / every), Math.ceil(height / every)];
    return { ...{ radius, every, columns, rows }, sums: new Int16Array(columns * rows), variance: 0 };
  };
  return [
    ...(kind === 'finest'
      ? SMALL_RADII.map((radius) => pool(radius, width * height > SMALL_SENSOR ? 2 : 1))
      : []),
    ...RADII.map((radius) => pool(radius, 2)),
  ];
}

/** A plane with its border mirrored around it, so that rims that leave it are looked at too. */
export function mirrored({ width, height, data }: LumaPlane, by: number): LumaPlane {
  const wide = createLumaPlane(width + 2 * by, height + 2 * by);
  const inside = (at: number, length: number): number => {
    const turned = at < 0 ? -at - 1 : at >= length ? 2 * length - 1 - at : at;
    return Math.min(length - 1, Math.max(0, turned));
  };
  for (let y = 0; y < wide.height; y++) {
    const from = inside(y - by, height) * width;
    const row = y * wide.width;
    wide.data.set(data.subarray(from, from + width), row + by);
    for (let x = 0; x < by; x++) {
      wide.data[row + x] = data[from + inside(x - by, width)];
      wide.data[row + by + width + x] = data[from + inside(width + x, width)];
    }
  }
  return wide;
}

/**
 * Adds four directions of a rim along a row. The places it looks at move on by the same step, which is several times
 * faster than going around the rim at each place. Steps are cut to what counts by `x & ~(x >> 31)`, which is the larger
 * of x and 0, because branches that follow grain are guessed wrong half of the time.
 */
function addDirections(
  data: Uint16Array,
  start: number,
  inner: Int32Array,
  outer: Int32Array,
  from: number,
  every: number,
  usual: Int32Array,
  count: number,
  cut: Int32Array,
): void {
  const i0 = start + inner[from];
  const i1 = start + inner[from + 1];
  const i2 = start + inner[from + 2];
  const i3 = start + inner[from + 3];
  const o0 = start + outer[from];
  const o1 = start + outer[from + 1];
  const o2 = start + outer[from + 2];
  const o3 = start + outer[from + 3];
  for (let k = 0, i = 0; k < count; k++, i += every) {
    const most = usual[k];
    const twice = 2 * most;
    let under = most - data[o0 + i] + data[i0 + i];
    under &= ~(under >> 31);
    let over = twice - under;
    let sum = over & ~(over >> 31);
    under = most - data[o1 + i] + data[i1 + i];
    under &= ~(under >> 31);
    over = twice - under;
    sum += over & ~(over >> 31);
    under = most - data[o2 + i] + data[i2 + i];
    under &= ~(under >> 31);
    over = twice - under;
    sum += over & ~(over >> 31);
    under = most - data[o3 + i] + data[i3 + i];
    under &= ~(under >> 31);
    over = twice - under;
    sum += over & ~(over >> 31);
    // Every direction counted the usual step too much.
    cut[k] += sum - 2 * twice;
  }
}

/** Adds the means of a row to the sums. @returns the sum of their squares, to tell how much they vary */
function addMeans(
  cut: Int32Array,
  usual: Int32Array,
  count: number,
  weight: number,
  sums: Int16Array,
  onto: number,
): number {
  const unit = (UNIT * weight) / DIRECTIONS;
  let squares = 0;
  for (let k = 0; k < count; k++) {
    const mean = Math.round((unit * cut[k]) / usual[k]);
    sums[onto + k] += mean;
    squares += mean * mean;
  }
  return squares;
}

/** Where a frame's plane lies on its level of the sensor, in the level's pixels; both are even. */
export interface PlanePlace {
  readonly left: number;
  readonly top: number;
}

/**
 * Adds the rims of one frame.
 *
 * @param wide the frame's plane, {@link mirrored} by `margin`
 * @param weight how much the frame counts, 1 as usual
 */
export function addRims(
  pool: RimPool,
  wide: LumaPlane,
  margin: number,
  { left, top }: PlanePlace,
  weight: number,
): void {
  const rim = rimOf(pool.radius, wide.width);
  const { inner, outer } = rim;
  const usual = holdLuma(wide, (plane) => usualStep(plane, rim));
  const { every, columns, rows, sums } = pool;
  const [width, height] = [wide.width - 2 * margin, wide.height - 2 * margin];
  const [firstX, firstY] = [left / every, top / every];
  // A frame that is cut larger than its sensor counts as far as the sensor goes.
  const from = Math.max(0, -firstX);
  const count = Math.min(Math.ceil(width / every), columns - firstX) - from;
  if (count <= 0) return;
  const usualRow = new Int32Array(count);
  const cut = new Int32Array(count);
  let [squares, counted] = [0, 0];
  for (let k = Math.max(0, -firstY); k * every < height && firstY + k < rows; k++) {
    const y = k * every + margin;
    const cells = Math.floor(y / CELL) * usual.columns;
    for (let x = 0; x < count; x++)
      usualRow[x] = usual.data[cells + Math.floor(((from + x) * every + margin) / CELL)];
    cut.fill(0);
    const start = y * wide.width + from * every + margin;
    for (let q = 0; q < DIRECTIONS; q += 4)
      addDirections(wide.data, start, inner, outer, q, every, usualRow, count, cut);
    squares += addMeans(cut, usualRow, count, weight, sums, (firstY + k) * columns + firstX + from);
    counted += count;
  }
  pool.variance += counted > 0 ? squares / (counted * UNIT * UNIT) : 0;
}
