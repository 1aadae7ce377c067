import { kernels } from '../../kernels/kernels.ts';
import { cellMeans, sumCells } from '../ground/cellMeans.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { Rim } from './rim.ts';
import { DIRECTIONS } from '../../kernels/layout.ts';

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

/** The mean size of a step from the inside of a rim to its outside, anywhere in the square around each place. */
export function usualStep(plane: HeldLuma, { radius, inner, outer, reach }: Rim): UsualStep {
  const { width, height, at } = plane;
  const quarter = DIRECTIONS / 4;
  const [east, south, west, north] = Array.from(
    { length: 4 },
    (_, k) => 2 * (outer[k * quarter] - inner[k * quarter]),
  );
  const cells = sumCells(plane, CELL, (columns, sums, counts) =>
    kernels().sumSteps(
      ...[at, width, height, reach, EVERY, CELL, columns],
      ...[east, south, west, north, sums, counts],
    ),
  );
  const around = Math.max(1, Math.round((NEIGHBOURHOOD_RADII * radius) / CELL));
  return { columns: cells.columns, data: cellMeans(cells, around, LEAST_STEP) };
}
