import { boxMean } from '../../filter/boxMean.ts';

/** Something that is added up in the cells of a plane, to know what is usual round about. */
export interface CellSums {
  readonly columns: number;
  readonly sums: Float64Array;
  readonly counts: Float64Array;
}

/** @param side of a cell, in pixels */
export function createCellSums(width: number, height: number, side: number): CellSums {
  const columns = Math.ceil(width / side);
  const cells = columns * Math.ceil(height / side);
  return { columns, sums: new Float64Array(cells), counts: new Float64Array(cells) };
}

/**
 * The mean of what was added up in a square of cells around each.
 *
 * @param around how many cells on each side count
 * @param least added to every mean: what every picture has, so that flat places never divide by nothing
 */
export function cellMeans({ columns, sums, counts }: CellSums, around: number, least: number): Float32Array {
  const [total, count] = [sums, counts].map((cells) =>
    boxMean({ width: columns, height: cells.length / columns, data: Float32Array.from(cells) }, around),
  );
  return total.data.map((sum, cell) => least + (count.data[cell] > 0 ? sum / count.data[cell] : 0));
}
