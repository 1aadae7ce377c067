import { boxMean } from '../../filter/boxMean.ts';
import { clear, layOut, take } from '../../kernels/kernels.ts';
import { columnOf } from '../../measure/columnOf.ts';

/** Something that is added up in the cells of a plane, to know what is usual round about. */
export interface CellSums {
  readonly columns: number;
  readonly sums: Float64Array;
  readonly counts: Float64Array;
}

/**
 * Adds something up in the cells of a plane, in the memory of the kernels; what was laid out there and is not held is lost.
 *
 * @param side of a cell, in pixels
 * @param add called with how many cells a row has, and where their sums and counts lie, all 0
 */
export function sumCells(
  { width, height }: { readonly width: number; readonly height: number },
  side: number,
  add: (columns: number, sums: number, counts: number) => void,
): CellSums {
  const columns = Math.ceil(width / side);
  const cells = columns * Math.ceil(height / side);
  const bytes = cells * Float64Array.BYTES_PER_ELEMENT;
  const [sums, counts] = layOut([bytes, bytes]);
  clear(sums, bytes);
  clear(counts, bytes);
  add(columns, sums, counts);
  return { columns, sums: take(Float64Array, sums, cells), counts: take(Float64Array, counts, cells) };
}

/**
 * The mean of what was added up in a square of cells around each.
 *
 * @param around how many cells on each side count
 * @param least added to every mean: what every picture has, so that flat places never divide by nothing
 */
export function cellMeans({ columns, sums, counts }: CellSums, around: number, least: number): Float32Array {
  const [total, count] = [sums, counts].map((cells) =>
    boxMean({ width: columns, height: cells.length / columns, data: new Float32Array(cells) }, around),
  );
  return columnOf(Float32Array, total.data, (sum, cell) =>
    count.data[cell] > 0 ? least + sum / count.data[cell] : least,
  );
}
