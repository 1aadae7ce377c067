import { LUMA } from '../../light/luma.ts';
import { medianOf } from '../../measure/medianOf.ts';
import type { Raster } from '../../raster/raster.ts';
import { colourChannels, fullScale } from '../../raster/raster.ts';

/** What of a picture's values speaks for a scanned print. */
export interface PrintSigns {
  /** A margin runs along all four sides: white paper, or the lid of the scanner around the print. */
  readonly hasBorder: boolean;
  /** Grey, or of one tint for each tone, as a black-and-white print is that has yellowed. */
  readonly isMonochrome: boolean;
  /** Neither deep blacks nor clean whites are left. */
  readonly isFaded: boolean;
}

/** Samples along the longer side: enough for a border of a hundredth of it. */
const SAMPLES = 400;
/** Width of the strips along the sides that are looked at, as a share of the shorter side. */
const STRIP = 0.012;
/** A margin's values spread no further than this about their median (mean absolute deviation), encoded, 0 to 1. */
const EVEN = 0.03;
/** The margins of two sides differ by no more than this. */
const ALIKE = 0.12;
/** Inside of its margin a picture departs from it by at least this, in the mean. */
const DEPARTS = 0.07;
/** Colours stray from one tint by no more than this, as a root mean square of encoded values. */
const ONE_TINT = 0.018;
/** Faded values lie between these, but for a hundredth at either end. */
const FADED = { black: 0.09, white: 0.94 };
const ENDS = 0.005;

/** Encoded values of evenly spread pixels, 0 to 1. */
interface Grid {
  readonly columns: number;
  readonly rows: number;
  readonly channels: readonly Float32Array[];
  readonly luma: Float32Array;
}

function sampleGrid(raster: Raster): Grid {
  const { width, height, stride, planes, depth } = raster;
  const step = Math.max(1, Math.max(width, height) / SAMPLES);
  const [columns, rows] = [Math.floor(width / step), Math.floor(height / step)];
  const top = fullScale(depth);
  const channels = planes.slice(0, colourChannels(planes.length)).map((plane) => {
    const values = new Float32Array(columns * rows);
    for (let row = 0, i = 0; row < rows; row++)
      for (let column = 0; column < columns; column++, i++)
        values[i] = plane[Math.floor((row + 0.5) * step) * stride + Math.floor((column + 0.5) * step)] / top;
    return values;
  });
  const luma = Float32Array.from(channels[0], (value, i) =>
    channels.length === 3 ? LUMA.reduce((sum, weight, c) => sum + weight * channels[c][i], 0) : value,
  );
  return { columns, rows, channels, luma };
}

const meanOf = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** The margin along one side, by its middle value; null where what lies there is uneven. */
function marginTone(luma: readonly number[]): number | null {
  const tone = medianOf(luma);
  return meanOf(luma.map((value) => Math.abs(value - tone))) <= EVEN ? tone : null;
}

function hasBorder({ columns, rows, luma }: Grid): boolean {
  const strip = Math.max(1, Math.round(STRIP * Math.min(columns, rows)));
  const sides: number[][] = [[], [], [], []];
  const inside: number[] = [];
  for (let row = 0; row < rows; row++)
    for (let column = 0; column < columns; column++) {
      const value = luma[row * columns + column];
      const depths = [column, row, columns - 1 - column, rows - 1 - row];
      depths.forEach((depth, side) => {
        if (depth < strip) sides[side].push(value);
      });
      if (Math.min(...depths) >= 6 * strip) inside.push(value);
    }
  const tones = sides.map(marginTone);
  if (tones.some((tone) => tone === null)) return false;
  const known = tones.filter((tone): tone is number => tone !== null);
  if (Math.max(...known) - Math.min(...known) > ALIKE) return false;
  const margin = meanOf(known);
  return meanOf(inside.map((value) => Math.abs(value - margin))) >= DEPARTS;
}

/** Bands of luma in which a tint is measured. */
const BANDS = 16;

function isMonochrome({ channels, luma }: Grid): boolean {
  if (channels.length === 1) return true;
  const bandOf = (value: number): number => Math.min(BANDS - 1, Math.floor(value * BANDS));
  let [squares, count] = [0, 0];
  for (const plane of [channels[0], channels[2]]) {
    // A yellowed print goes from one tint in its shadows to another in its lights: the departure of a channel from luma is
    // compared with the mean departure at the same brightness.
    const sums = new Float64Array(BANDS);
    const counts = new Float64Array(BANDS);
    for (let i = 0; i < luma.length; i++) {
      sums[bandOf(luma[i])] += plane[i] - luma[i];
      counts[bandOf(luma[i])]++;
    }
    for (let i = 0; i < luma.length; i++) {
      const band = bandOf(luma[i]);
      squares += (plane[i] - luma[i] - sums[band] / counts[band]) ** 2;
      count++;
    }
  }
  return Math.sqrt(squares / count) <= ONE_TINT;
}

function isFaded({ luma }: Grid): boolean {
  const sorted = [...luma].sort((a, b) => a - b);
  const at = (share: number): number => sorted[Math.floor(share * (sorted.length - 1))];
  return at(ENDS) >= FADED.black && at(1 - ENDS) <= FADED.white;
}

/**
 * Looks for what speaks for a print in a picture's encoded values, 8 or 16 bit, on a grid of some 400 columns.
 *
 * @param raster encoded values, 8 or 16 bit, grey or colour
 */
export function printSigns(raster: Raster): PrintSigns {
  const grid = sampleGrid(raster);
  return { hasBorder: hasBorder(grid), isMonochrome: isMonochrome(grid), isFaded: isFaded(grid) };
}
