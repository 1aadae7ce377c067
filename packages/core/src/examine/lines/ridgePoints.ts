import { cellMeans, createCellSums } from '../ground/cellMeans.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';

/** Places on the crest of a thin line, as columns of one table. */
export interface RidgePoints {
  readonly count: number;
  /** Index of the pixel. */
  readonly at: Int32Array;
  /** The crest itself, in pixels of the plane. */
  readonly x: Float32Array;
  readonly y: Float32Array;
  /** Direction of the line, radians, 0 to pi. */
  readonly angle: Float32Array;
  /** Curvature across over the usual one round about; above 0 where the line is darker than its sides. */
  readonly strength: Float32Array;
  /** For every pixel of the plane the number of its point and 1, or 0. */
  readonly map: Int32Array;
}

/** A point must stand out from the usual curvature so many times. */
const LEAST_STRENGTH = 1.6;
/** Along a line there is at most so much of the curvature that there is across. */
const MOST_ALONG = 0.6;
/** The crest lies in the pixel itself, give or take. */
const INSIDE = 0.6;
/** Side of the cells in which the usual curvature is taken, in pixels; nine of them count. */
const CELL = 32;
const EVERY = 3;
/** A curvature that every picture has, in units of a plane. */
const LEAST_CURVATURE = 12;

function addRow(
  data: Uint16Array,
  row: number,
  width: number,
  sums: Float64Array,
  counts: Float64Array,
  cells: number,
): void {
  for (let x = 1; x < width - 1; x += EVERY) {
    const i = row + x;
    const twice = data[i] << 1;
    const across = data[i - 1] + data[i + 1] - twice;
    const down = data[i - width] + data[i + width] - twice;
    const cell = cells + ((x / CELL) | 0);
    sums[cell] += (across < 0 ? -across : across) + (down < 0 ? -down : down);
    counts[cell] += 2;
  }
}

function usualCurvature({ width, height, data }: LumaPlane): { columns: number; data: Float32Array } {
  const cells = createCellSums(width, height, CELL);
  for (let y = 1; y < height - 1; y += EVERY)
    addRow(data, y * width, width, cells.sums, cells.counts, Math.floor(y / CELL) * cells.columns);
  return { columns: cells.columns, data: cellMeans(cells, 1, LEAST_CURVATURE) };
}

/** Lists the pixels of a row whose curvature stands out. @returns how many are listed after it */
function bentRow(
  data: Uint16Array,
  from: number,
  end: number,
  width: number,
  least: number,
  listed: Int32Array,
  before: number,
): number {
  let count = before;
  for (let i = from; i < end; i++) {
    const twice = data[i] << 1;
    const across = data[i - 1] + data[i + 1] - twice;
    const down = data[i - width] + data[i + width] - twice;
    const most = (across < 0 ? -across : across) + (down < 0 ? -down : down);
    if (most >= least) listed[count++] = i;
  }
  return count;
}

/**
 * Points on the crests of thin lines: where the slope across the direction of greatest curvature vanishes within the
 * pixel (Steger 1998, An unbiased detector of curvilinear structures), held against what is usual round about.
 *
 * @param plane smoothed by about a pixel; lines of one to three pixels answer
 */
export function ridgePoints(plane: LumaPlane): RidgePoints {
  const { width, height, data } = plane;
  const usual = usualCurvature(plane);
  const listed = new Int32Array(width * height);
  let bent = 0;
  for (let y = 1; y < height - 1; y++) {
    const cells = Math.floor(y / CELL) * usual.columns;
    for (let x = 1; x < width - 1;) {
      const column = Math.floor(x / CELL);
      const end = Math.min(width - 1, (column + 1) * CELL);
      const least = Math.round(LEAST_STRENGTH * usual.data[cells + column]);
      bent = bentRow(data, y * width + x, y * width + end, width, least, listed, bent);
      x = end;
    }
  }
  const [at, map] = [new Int32Array(bent), new Int32Array(width * height)];
  const [xs, ys, angle, strength] = [0, 1, 2, 3].map(() => new Float32Array(bent));
  let count = 0;
  for (const i of listed.subarray(0, bent)) {
    const y = Math.floor(i / width);
    const x = i - y * width;
    const xx = data[i - 1] + data[i + 1] - 2 * data[i];
    const yy = data[i - width] + data[i + width] - 2 * data[i];
    const xy = (data[i + width + 1] + data[i - width - 1] - data[i + width - 1] - data[i - width + 1]) / 4;
    const mean = (xx + yy) / 2;
    const half = (xx - yy) / 2;
    const apart = Math.sqrt(half * half + xy * xy);
    const most = mean >= 0 ? mean + apart : mean - apart;
    const least = mean >= 0 ? mean - apart : mean + apart;
    const here = usual.data[Math.floor(y / CELL) * usual.columns + Math.floor(x / CELL)];
    if (Math.abs(most) < LEAST_STRENGTH * here || Math.abs(least) > MOST_ALONG * Math.abs(most)) continue;
    // The direction of the greater curvature, across the line: of two forms of the eigenvector the longer one.
    const isAcross = mean >= 0 === half >= 0;
    const ex = isAcross ? most - yy : xy;
    const ey = isAcross ? xy : most - xx;
    const length = Math.sqrt(ex * ex + ey * ey) || 1;
    const nx = ex / length;
    const ny = ey / length;
    const slope = ((data[i + 1] - data[i - 1]) * nx + (data[i + width] - data[i - width]) * ny) / 2;
    const off = -slope / most;
    if (Math.abs(off * nx) > INSIDE || Math.abs(off * ny) > INSIDE) continue;
    at[count] = i;
    xs[count] = x + 0.5 + off * nx;
    ys[count] = y + 0.5 + off * ny;
    // Along it, without an arrow.
    angle[count] = (Math.atan2(nx, -ny) + Math.PI) % Math.PI;
    strength[count] = most / here;
    map[i] = ++count;
  }
  return { count, at, x: xs, y: ys, angle, strength, map };
}
