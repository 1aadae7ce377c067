import { RasterError } from '../errors.ts';
import type { Depth, Plane } from '../raster/raster.ts';
import { fullScale } from '../raster/raster.ts';

/** A part of a plane: `plane[y * stride + x]`. */
export interface PlanePart {
  readonly plane: Plane;
  readonly width: number;
  readonly height: number;
  readonly stride: number;
  readonly depth: Depth;
}

/** Columns that are looked at together: their histograms stay in the nearest memory. */
const STRIP = 256;
/** Counts of a column fit into a byte up to this radius. */
export const MOST_MEDIAN_RADIUS = 127;
/** Values of 16 bit are sorted into so many bins, and the median told by how full its bin is. */
const BINS_16 = 512;

type Binned = Uint8Array | Uint16Array;

/** How many values of each column lie below a level of its own: the one it was asked for last. */
interface Ranks {
  readonly level: Int32Array;
  readonly below: Int32Array;
}

/** The histograms of some columns over the rows of the window. */
interface Columns {
  readonly count: number;
  /** `bins[level * count + column]`. */
  readonly bins: Uint8Array;
  /** For the column that enters a window, and for the one that leaves it: the two ask for different levels. */
  readonly entering: Ranks;
  readonly leaving: Ranks;
}

function addRow({ count, bins, entering, leaving }: Columns, binned: Binned, from: number): void {
  for (let c = 0; c < count; c++) {
    const value = binned[from + c];
    bins[value * count + c]++;
    if (value < entering.level[c]) entering.below[c]++;
    if (value < leaving.level[c]) leaving.below[c]++;
  }
}

/** Moves the window down by a row. */
function slideRow(
  { count, bins, entering, leaving }: Columns,
  binned: Binned,
  gone: number,
  fresh: number,
): void {
  const { level: enteringLevel, below: enteringBelow } = entering;
  const { level: leavingLevel, below: leavingBelow } = leaving;
  for (let c = 0; c < count; c++) {
    const old = binned[gone + c];
    const value = binned[fresh + c];
    bins[old * count + c]--;
    bins[value * count + c]++;
    // The sign of a difference, without a branch: what is below counts one.
    enteringBelow[c] += ((old - enteringLevel[c]) >> 31) - ((value - enteringLevel[c]) >> 31);
    leavingBelow[c] += ((old - leavingLevel[c]) >> 31) - ((value - leavingLevel[c]) >> 31);
  }
}

/** How many values of a column lie below a level, which is seldom far from the one it was asked for in the row above. */
function countBelow(
  bins: Uint8Array,
  count: number,
  { level, below }: Ranks,
  column: number,
  wanted: number,
): number {
  let at = level[column];
  let sum = below[column];
  if (at === wanted) return sum;
  for (; at < wanted; at++) sum += bins[at * count + column];
  while (at > wanted) {
    at--;
    sum -= bins[at * count + column];
  }
  level[column] = wanted;
  below[column] = sum;
  return sum;
}

/** How many values of the window lie in one bin. */
function countIn(bins: Uint8Array, from: number, length: number): number {
  let sum = 0;
  for (let i = from; i < from + length; i++) sum += bins[i];
  return sum;
}

/** Where the median of one row's first window was found last. */
interface Found {
  level: number;
}

/** Medians along one row of a strip: the bin each lies in, and how much of that bin lies below it. */
interface RowMedians {
  readonly levels: Int32Array;
  readonly fills: Float32Array;
}

/** Medians along one row of a strip. */
function scanRow(columns: Columns, radius: number, found: Found, { levels, fills }: RowMedians): void {
  const { count, bins, entering, leaving } = columns;
  const side = 2 * radius + 1;
  const half = (side * side - 1) / 2;
  let { level } = found;
  let below = 0;
  for (let c = 0; c < side; c++) below += countBelow(bins, count, entering, c, level);
  let inBin = countIn(bins, level * count, side);
  for (let x = 0; x + side <= count; x++) {
    if (x > 0) {
      const [enters, leaves] = [x + side - 1, x - 1];
      below += countBelow(bins, count, entering, enters, level);
      below -= countBelow(bins, count, leaving, leaves, level);
      inBin += bins[level * count + enters] - bins[level * count + leaves];
    }
    while (below > half) {
      level--;
      inBin = countIn(bins, level * count + x, side);
      below -= inBin;
    }
    while (below + inBin <= half) {
      below += inBin;
      level++;
      inBin = countIn(bins, level * count + x, side);
    }
    if (x === 0) found.level = level;
    levels[x] = level;
    fills[x] = (half + 0.5 - below) / inBin;
  }
}

/**
 * The median of the square of `2 radius + 1` pixels around each pixel; beyond the border the nearest pixel counts.
 * Values of 8 bit give exactly the middle one. Those of 16 bit are sorted into 512 bins, and the median is read off
 * straight inside its bin.
 *
 * The histogram of every column is kept from row to row (Perreault and Hébert 2007). Unlike there the window has no
 * histogram of its own: how many values lie below the median is carried from pixel to pixel, and each column remembers
 * that number for the level it was asked for last, which is seldom far away.
 *
 * @returns code values, row after row without gaps
 * @throws RasterError when the radius is not 1 to 127
 */
export function medianFilter(part: PlanePart, radius: number): Plane {
  if (!(Number.isInteger(radius) && radius >= 1 && radius <= MOST_MEDIAN_RADIUS))
    throw new RasterError(`the radius of a median must be 1 to ${MOST_MEDIAN_RADIUS}, got ${radius}`);
  const { width, height, depth } = part;
  const medians = depth === 8 ? new Uint8Array(width * height) : new Uint16Array(width * height);
  for (let left = 0; left < width; left += STRIP) {
    const strip = Math.min(STRIP, width - left);
    filterStrip(part, radius, left, strip, medians);
  }
  return medians;
}

/** The columns of a strip with what lies around it, sorted into bins, row after row. */
function binStrip(
  { plane, width, height, stride, depth }: PlanePart,
  radius: number,
  left: number,
  count: number,
): Uint8Array | Uint16Array {
  const shift = depth === 8 ? 0 : 7;
  const binned = depth === 8 ? new Uint8Array(count * height) : new Uint16Array(count * height);
  const inner = Math.max(0, radius - left);
  const end = Math.min(count, width - left + radius);
  for (let y = 0; y < height; y++) {
    const onto = y * count;
    const from = y * stride + left - radius;
    for (let c = inner; c < end; c++) binned[onto + c] = plane[from + c] >> shift;
    binned.fill(binned[onto + inner], onto, onto + inner);
    binned.fill(binned[onto + end - 1], onto + end, onto + count);
  }
  return binned;
}

function filterStrip(part: PlanePart, radius: number, left: number, strip: number, medians: Plane): void {
  const { width, height, depth } = part;
  const levels = depth === 8 ? 256 : BINS_16;
  const count = strip + 2 * radius;
  const columns: Columns = {
    count,
    bins: new Uint8Array(levels * count),
    entering: { level: new Int32Array(count), below: new Int32Array(count) },
    leaving: { level: new Int32Array(count), below: new Int32Array(count) },
  };
  const binned = binStrip(part, radius, left, count);
  const rowOf = (y: number): number => Math.max(0, Math.min(height - 1, y)) * count;
  const binWidth = (fullScale(depth) + 1) / levels;
  const found: Found = { level: 0 };
  const row: RowMedians = { levels: new Int32Array(strip), fills: new Float32Array(strip) };
  for (let y = -radius; y <= radius; y++) addRow(columns, binned, rowOf(y));
  for (let y = 0; y < height; y++) {
    if (y > 0) slideRow(columns, binned, rowOf(y - radius - 1), rowOf(y + radius));
    scanRow(columns, radius, found, row);
    const start = y * width + left;
    if (depth === 8) medians.set(row.levels, start);
    else for (let x = 0; x < strip; x++) medians[start + x] = (row.levels[x] + row.fills[x]) * binWidth;
  }
}
