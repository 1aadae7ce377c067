import { clear, kernels, layOut, take } from '../../filter/kernels.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import type { Rim } from './rim.ts';
import { DIRECTIONS } from './rim.ts';
import type { UsualStep } from './usualStep.ts';
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

/** What answers on the grid of places that are tried, which has a border of one. */
interface Answers {
  readonly columns: number;
  /** Thousandths of the usual step, above 0 where the inside is darker; 0 where nothing answers. */
  readonly sums: Int32Array;
  /** Where it is not 0, in order. */
  readonly places: Int32Array;
}

function tryRims({ width, height, data }: LumaPlane, rim: Rim, usual: UsualStep): Answers {
  const half = (width + 1) >> 1;
  const columns = Math.ceil(width / EVERY) + 2;
  const cells = columns * (Math.ceil(height / EVERY) + 2);
  const { splitColumns, tryRims: answer } = kernels();
  const common = Int32Array.from(usual.data, Math.round);
  const [even, odd, from, inner, outer, usuals, sums, places] = layOut([
    ...[2 * half * height, 2 * half * height, data],
    ...[4 * DIRECTIONS, 4 * DIRECTIONS, common],
    ...[4 * cells, 4 * cells],
  ]);
  /** Where a step from a place in an even column leads, in the planes of even and odd columns. */
  const offset = (step: number): number => {
    const down = Math.round(step / width);
    const across = step - down * width;
    return (across & 1 ? odd : even) + 2 * (down * half + (across >> 1));
  };
  const { memory } = kernels();
  new Int32Array(memory.buffer, inner, DIRECTIONS).set(rim.inner.map(offset));
  new Int32Array(memory.buffer, outer, DIRECTIONS).set(rim.outer.map(offset));
  splitColumns(from, even, odd, width, height);
  clear(sums, 4 * cells);
  const count = answer(
    ...[inner, outer, width, height, rim.reach, usuals, CELL, usual.columns],
    ...[LEAST_NEAR, sums, columns, places],
  );
  return { columns, sums: take(Int32Array, sums, cells), places: take(Int32Array, places, count) };
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
  const { reach } = rim;
  const usual = usualStep({ width, height, data }, rim);
  const { columns, sums, places } = tryRims({ width, height, data }, rim, usual);
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
  for (const cell of places) {
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
