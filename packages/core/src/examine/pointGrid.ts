/** Points by the square cell that they lie in, all known beforehand: for tens of thousands that each ask for their neighbours. */
export interface PointGrid {
  /**
   * Puts the numbers of all points in the cell of a place and in the eight around it into {@link found}, column after column:
   * everything within a cell's side, and some beyond.
   *
   * @returns how many there are
   */
  near(x: number, y: number): number;
  /** What {@link near} found; the next call puts its own there. */
  readonly found: Int32Array;
}

/**
 * @param x in any unit, `y` the other
 * @param side of a cell, in the same unit
 */
export function createPointGrid(x: Float64Array, y: Float64Array, side: number): PointGrid {
  const count = x.length;
  let [minX, minY, maxX, maxY] = [0, 0, 0, 0];
  for (let k = 0; k < count; k++) {
    minX = k === 0 || x[k] < minX ? x[k] : minX;
    minY = k === 0 || y[k] < minY ? y[k] : minY;
    maxX = k === 0 || x[k] > maxX ? x[k] : maxX;
    maxY = k === 0 || y[k] > maxY ? y[k] : maxY;
  }
  // Cells begin at multiples of their side, wherever the points lie; one is left free all around.
  const [firstColumn, firstRow] = [Math.floor(minX / side) - 1, Math.floor(minY / side) - 1];
  const columns = Math.floor(maxX / side) - firstColumn + 2;
  const rows = Math.floor(maxY / side) - firstRow + 2;
  const cellOf = (px: number, py: number): number =>
    (Math.floor(px / side) - firstColumn) * rows + Math.floor(py / side) - firstRow;
  // Counted, then put one behind the other: those of a cell in their order, cells down each column.
  const starts = new Int32Array(columns * rows + 1);
  for (let k = 0; k < count; k++) starts[cellOf(x[k], y[k]) + 1]++;
  for (let c = 0; c < columns * rows; c++) starts[c + 1] += starts[c];
  const next = starts.slice();
  const sorted = new Int32Array(count);
  for (let k = 0; k < count; k++) sorted[next[cellOf(x[k], y[k])]++] = k;
  const found = new Int32Array(count);

  return {
    found,
    near(px, py) {
      const column = Math.floor(px / side) - firstColumn;
      const row = Math.floor(py / side) - firstRow;
      let many = 0;
      const [top, bottom] = [Math.max(0, row - 1), Math.min(rows - 1, row + 1)];
      if (bottom < top) return 0;
      for (let c = Math.max(0, column - 1); c <= Math.min(columns - 1, column + 1); c++) {
        const end = starts[c * rows + bottom + 1];
        for (let s = starts[c * rows + top]; s < end; s++) found[many++] = sorted[s];
      }
      return many;
    },
  };
}
