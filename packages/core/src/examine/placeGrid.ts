/** Things by the square cell that they lie in. */
export interface PlaceGrid<T> {
  add(x: number, y: number, thing: T): void;
  /** Whether one in the cell of a place or in the eight around it, which hold all within a cell's side, is as asked for. */
  some(x: number, y: number, is: (thing: T) => boolean): boolean;
}

/** Cells are numbered column after column of a plane this high: so few that their numbers are fast to look up. */
const ROWS = 2 ** 16;

/** @param side of a cell, in the unit of the places */
export function createPlaceGrid<T>(side: number): PlaceGrid<T> {
  const cells = new Map<number, T[]>();
  const numberOf = (x: number, y: number): number => Math.floor(x / side) * ROWS + Math.floor(y / side);
  return {
    add(x, y, thing) {
      const at = numberOf(x, y);
      const cell = cells.get(at);
      if (cell) cell.push(thing);
      else cells.set(at, [thing]);
    },
    some(x, y, is) {
      const middle = numberOf(x, y);
      for (let column = -1; column <= 1; column++)
        for (let row = -1; row <= 1; row++)
          if (cells.get(middle + column * ROWS + row)?.some(is)) return true;
      return false;
    },
  };
}
