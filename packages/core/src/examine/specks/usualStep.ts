import { cellMeans, createCellSums } from '../ground/cellMeans.ts';
import type { LumaPlane } from '../ground/lumaLevels.ts';
import type { Rim } from './rim.ts';
import { DIRECTIONS } from './rim.ts';

/** How much a plane usually changes across a rim's width, in cells. */
export interface UsualStep {
  readonly columns: number;
  readonly data: Float32Array;
}

/** Side of a cell, in pixels. */
export const CELL = 32;
/** Steps are taken at every so many pixels across and down: their mean needs no more. */
const EVERY = 4;
/** Half the side of the square in which the usual step is taken, in radii. */
const NEIGHBOURHOOD_RADII = 6;
/** A step that every picture has, in units of a plane: keeps flat places from dividing by nothing. */
const LEAST_STEP = 6;

function addRow(
  data: Uint16Array,
  row: number,
  from: number,
  end: number,
  steps: Int32Array,
  sums: Float64Array,
  counts: Float64Array,
  cellRow: number,
): void {
  const [east, south, west, north] = steps;
  for (let x = from; x < end; x += EVERY) {
    const i = row + x;
    const here = data[i];
    const a = data[i + east] - here;
    const b = data[i + south] - here;
    const c = data[i + west] - here;
    const d = data[i + north] - here;
    const cell = cellRow + ((x / CELL) | 0);
    sums[cell] += (a < 0 ? -a : a) + (b < 0 ? -b : b) + (c < 0 ? -c : c) + (d < 0 ? -d : d);
    counts[cell] += 4;
  }
}

/** The mean size of a step from the inside of a rim to its outside, anywhere in the square around each place. */
export function usualStep(
  { width, height, data }: LumaPlane,
  { radius, inner, outer, reach }: Rim,
): UsualStep {
  const cells = createCellSums(width, height, CELL);
  const quarter = DIRECTIONS / 4;
  const steps = Int32Array.from({ length: 4 }, (_, k) => outer[k * quarter] - inner[k * quarter]);
  for (let y = reach; y < height - reach; y += EVERY) {
    const cellRow = Math.floor(y / CELL) * cells.columns;
    addRow(data, y * width, reach, width - reach, steps, cells.sums, cells.counts, cellRow);
  }
  const around = Math.max(1, Math.round((NEIGHBOURHOOD_RADII * radius) / CELL));
  return { columns: cells.columns, data: cellMeans(cells, around, LEAST_STEP) };
}
