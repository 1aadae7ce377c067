import type { LumaPlane } from '../ground/lumaLevels.ts';
import type { Rim } from './rim.ts';
import { DIRECTIONS } from './rim.ts';
import { CELL, usualStep } from './usualStep.ts';

/** A place whose rim stands out. */
export interface RimPeak {
  /** Index into the plane. */
  readonly at: number;
  /** Mean step across the rim, each counted up to the usual one, over the usual one; above 0 where the inside is darker. */
  readonly step: number;
  /** The usual step round about, in units of the plane. */
  readonly usual: number;
  /** The mean step across the rim over the usual one, every step in full. */
  readonly strength: number;
}

/** Places are tried at every so many pixels across and down; where one answers, it is climbed from there. */
const EVERY = 2;
/** What must answer at a place that is off the centre by up to a pixel, and what at the centre. */
const LEAST_NEAR = 0.78;
const LEAST_STEP = 0.88;
/** Steps that are climbed at most. */
const MOST_CLIMBED = 5;
/** Of each square of this side, in pixels, the strongest so many are kept: where more stand out, none does. */
const SQUARE = 192;
const MOST_IN_SQUARE = 40;

/**
 * Tries places of one row. The step across the rim is taken in every direction and counts up to the usual one: a
 * shadow shows all around, while an edge of the subject, however strong, shows in a few directions only.
 *
 * This is the innermost loop of an examination. Half of the directions are written out, since most places fail
 * there; steps are cut to what counts by `x & ~(x >> 31)`, which is the larger of x and 0, because branches that
 * follow grain are guessed wrong half of the time.
 *
 * @returns how many places are listed after this row
 */
function tryRow(
  data: Uint16Array,
  from: number,
  end: number,
  inner: Int32Array,
  outer: Int32Array,
  usual: number,
  sums: Int32Array,
  grid: number,
  places: Int32Array,
  listed: number,
): number {
  let count = listed;
  let cell = grid;
  const limit = Math.round(LEAST_NEAR * usual * DIRECTIONS);
  const half = (usual * DIRECTIONS) / 2;
  // What half of the directions must give, if the others give all they may.
  const hopeful = limit - half;
  const twice = 2 * usual;
  const i0 = inner[0];
  const i2 = inner[2];
  const i4 = inner[4];
  const i6 = inner[6];
  const i8 = inner[8];
  const i10 = inner[10];
  const i12 = inner[12];
  const i14 = inner[14];
  const o0 = outer[0];
  const o2 = outer[2];
  const o4 = outer[4];
  const o6 = outer[6];
  const o8 = outer[8];
  const o10 = outer[10];
  const o12 = outer[12];
  const o14 = outer[14];
  for (let i = from; i < end; i += EVERY, cell++) {
    let least = 0;
    let most = 0;
    let sum = 0;
    least = usual - data[i + o0] + data[i + i0];
    least &= ~(least >> 31);
    most = twice - least;
    sum = most & ~(most >> 31);
    least = usual - data[i + o8] + data[i + i8];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    least = usual - data[i + o4] + data[i + i4];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    least = usual - data[i + o12] + data[i + i12];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    least = usual - data[i + o2] + data[i + i2];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    least = usual - data[i + o10] + data[i + i10];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    least = usual - data[i + o6] + data[i + i6];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    least = usual - data[i + o14] + data[i + i14];
    least &= ~(least >> 31);
    most = twice - least;
    sum += most & ~(most >> 31);
    // Every direction counted the usual step too much.
    sum -= half;
    if (sum < hopeful && sum > -hopeful) continue;
    for (let k = 1; k < DIRECTIONS; k += 2) {
      least = usual - data[i + outer[k]] + data[i + inner[k]];
      least &= ~(least >> 31);
      most = twice - least;
      sum += most & ~(most >> 31);
    }
    sum -= half;
    if (sum <= limit && sum >= -limit) continue;
    sums[cell] = (1000 * sum) / usual;
    places[count++] = cell;
  }
  return count;
}

/** What a rim gives: the mean step with each counted up to the usual one, -1 to 1, and with every step in full. */
interface RimStep {
  readonly cut: number;
  readonly full: number;
}

function rimStep(data: Uint16Array, i: number, { inner, outer }: Rim, usual: number): RimStep {
  let [cut, full] = [0, 0];
  for (let k = 0; k < DIRECTIONS; k++) {
    const step = data[i + outer[k]] - data[i + inner[k]];
    full += step;
    cut += step > usual ? usual : step < -usual ? -usual : step;
  }
  return { cut: cut / (DIRECTIONS * usual), full: full / (DIRECTIONS * usual) };
}

/** A deep speck reaches all it may off its centre already: from there on the steps in full tell the way. */
const FULL_SHARE = 0.02;
const heightOf = ({ cut, full }: RimStep, sign: number): number => sign * (cut + FULL_SHARE * full);

/** Whether no neighbour on the grid answers more strongly the same way; of equals the first counts. */
function isPeak(sums: Int32Array, cell: number, columns: number): boolean {
  const sign = sums[cell] > 0 ? 1 : -1;
  const value = sign * sums[cell];
  return (
    value > sign * sums[cell - 1] &&
    value >= sign * sums[cell + 1] &&
    value > sign * sums[cell - columns] &&
    value >= sign * sums[cell + columns] &&
    value > sign * sums[cell - columns - 1] &&
    value >= sign * sums[cell + columns + 1] &&
    value > sign * sums[cell - columns + 1] &&
    value >= sign * sums[cell + columns - 1]
  );
}

/** The strongest peaks of every square. */
function strongest(peaks: readonly RimPeak[], width: number): RimPeak[] {
  const squares = new Map<number, RimPeak[]>();
  const across = Math.ceil(width / SQUARE);
  for (const peak of peaks) {
    const y = Math.floor(peak.at / width);
    const square = Math.floor(y / SQUARE) * across + Math.floor((peak.at - y * width) / SQUARE);
    const others = squares.get(square);
    if (others) others.push(peak);
    else squares.set(square, [peak]);
  }
  return [...squares.values()].flatMap((inSquare) =>
    inSquare.length <= MOST_IN_SQUARE
      ? inSquare
      : inSquare.sort((a, b) => b.strength - a.strength || a.at - b.at).slice(0, MOST_IN_SQUARE),
  );
}

/** Places of one radius whose rim stands out all around, each once. */
export function rimPeaks({ width, height, data }: LumaPlane, rim: Rim): RimPeak[] {
  const { inner, outer, reach } = rim;
  const usual = usualStep({ width, height, data }, rim);
  const columns = Math.ceil(width / EVERY) + 2;
  const sums = new Int32Array(columns * (Math.ceil(height / EVERY) + 2));
  const places = new Int32Array(sums.length);
  let count = 0;
  const first = reach + (reach % EVERY);
  for (let y = first; y < height - reach; y += EVERY) {
    const cells = Math.floor(y / CELL) * usual.columns;
    const gridRow = (y / EVERY + 1) * columns + 1;
    for (let x = first; x < width - reach;) {
      const column = Math.floor(x / CELL);
      const end = Math.min(width - reach, (column + 1) * CELL);
      const here = Math.round(usual.data[cells + column]);
      const from = y * width;
      count = tryRow(
        data,
        from + x,
        from + end,
        inner,
        outer,
        here,
        sums,
        gridRow + x / EVERY,
        places,
        count,
      );
      x += EVERY * Math.ceil((end - x) / EVERY);
    }
  }
  const usualAt = (i: number): number => {
    const y = Math.floor(i / width);
    return usual.data[Math.floor(y / CELL) * usual.columns + Math.floor((i - y * width) / CELL)];
  };
  const nothing: RimStep = { cut: 0, full: 0 };
  const stepAt = (i: number): RimStep => {
    const y = Math.floor(i / width);
    const x = i - y * width;
    if (x < reach || y < reach || x >= width - reach || y >= height - reach) return nothing;
    return rimStep(data, i, rim, usualAt(i));
  };
  const around = [-width - 1, -width, -width + 1, -1, 1, width - 1, width, width + 1];
  const peaks = new Map<number, RimPeak>();
  for (const cell of places.subarray(0, count)) {
    if (!isPeak(sums, cell, columns)) continue;
    const row = Math.floor(cell / columns) - 1;
    let at = row * EVERY * width + (cell - (row + 1) * columns - 1) * EVERY;
    let step = stepAt(at);
    const sign = step.cut > 0 ? 1 : -1;
    for (let climbed = 0; climbed < MOST_CLIMBED; climbed++) {
      const from = at;
      for (const move of around) {
        const other = stepAt(from + move);
        if (heightOf(other, sign) > heightOf(step, sign)) [at, step] = [from + move, other];
      }
      if (at === from) break;
    }
    if (sign * step.cut < LEAST_STEP) continue;
    peaks.set(at, { at, step: step.cut, usual: usualAt(at), strength: sign * step.full });
  }
  return strongest([...peaks.values()], width);
}
