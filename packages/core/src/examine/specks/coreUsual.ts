import { kernels } from '../../kernels/kernels.ts';
import { cellMeans, sumCells } from '../ground/cellMeans.ts';
import type { HeldLuma } from '../ground/heldLuma.ts';
import type { Ring } from './ring.ts';

/** Contrasts are taken at every so many pixels across and down: their mean needs no more. */
const EVERY = 3;
/** Mean contrasts in cells, in twice the units of a plane. */
export interface CoreUsual {
  readonly columns: number;
  readonly data: Float32Array;
}

/** Side of a cell, in pixels. */
export const CELL = 16;
/** Cells around a place that count: a square of some 50 pixels. */
const AROUND = 1;
/** A contrast that no eye sees, in twice the units of a plane: keeps flat places from dividing by nothing. */
const LEAST_CONTRAST = 40;

/** Mean size of what the ring-against-core test sees round about, whatever its sign, in twice the units of a plane. */
export function coreUsual(plane: HeldLuma, { straight, slanted }: Ring): CoreUsual {
  const { width, height, at } = plane;
  const cells = sumCells(plane, CELL, (columns, sums, counts) =>
    kernels().sumRings(at, width, height, straight, slanted, EVERY, CELL, columns, sums, counts),
  );
  return { columns: cells.columns, data: cellMeans(cells, AROUND, LEAST_CONTRAST) };
}
