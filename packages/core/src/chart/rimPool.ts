import { CELL, usualStep } from '../examine/specks/usualStep.ts';
import type { Rim } from '../examine/specks/rim.ts';
import { DIRECTIONS, rimOf } from '../examine/specks/rim.ts';
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

/** Radii that are pooled on a level, 0 for the sensor's own pixels. */
export function createPools({ width, height }: { width: number; height: number }, level: number): RimPool[] {
  const pool = (radius: number, every: number): RimPool => {
    const [columns, rows] = [Math.ceil(width / every), Math.ceil(height / every)];
    return { ...{ radius, every, columns, rows }, sums: new Int16Array(columns * rows), variance: 0 };
  };
  return [
    ...(level === 0 ? SMALL_RADII.map((radius) => pool(radius, 1)) : []),
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

/** Steps across a rim are added and cut; the mean's square is returned summed, to tell how much it varies. */
function addRow(
  data: Uint16Array,
  from: number,
  count: number,
  every: number,
  inner: Int32Array,
  outer: Int32Array,
  usual: number,
  weight: number,
  sums: Int16Array,
  onto: number,
): number {
  let squares = 0;
  const unit = (UNIT * weight) / (DIRECTIONS * usual);
  for (let k = 0, i = from; k < count; k++, i += every) {
    let sum = 0;
    for (let q = 0; q < DIRECTIONS; q++) {
      const step = data[i + outer[q]] - data[i + inner[q]];
      sum += step > usual ? usual : step < -usual ? -usual : step;
    }
    const mean = Math.round(unit * sum);
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
  const rim: Rim = rimOf(pool.radius, wide.width);
  const usual = usualStep(wide, rim);
  const { every, columns, sums } = pool;
  const [width, height] = [wide.width - 2 * margin, wide.height - 2 * margin];
  let [squares, count] = [0, 0];
  for (let y = 0; y < height; y += every) {
    const row = (top + y) / every;
    if (row < 0 || row >= pool.rows) continue;
    const cells = Math.floor((y + margin) / CELL) * usual.columns;
    for (let x = 0; x < width;) {
      const column = Math.floor((x + margin) / CELL);
      const end = Math.min(width, (column + 1) * CELL - margin);
      const places = Math.ceil((end - x) / every);
      const onto = (left + x) / every;
      const fits = Math.min(places, columns - onto);
      if (onto >= 0 && fits > 0) {
        const from = (y + margin) * wide.width + x + margin;
        const step = Math.round(usual.data[cells + column]);
        squares += addRow(
          ...[wide.data, from, fits, every, rim.inner, rim.outer] as const,
          ...[step, weight, sums, row * columns + onto] as const,
        );
        count += fits;
      }
      x += every * places;
    }
  }
  pool.variance += count > 0 ? squares / (count * UNIT * UNIT) : 0;
}
