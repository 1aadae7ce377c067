import type { Fault } from '../fault/fault.ts';

type Disc = Pick<Fault, 'x' | 'y' | 'r'>;

/** Things that each cover a disc, by the square cells that it reaches into. */
export interface DiscGrid<T> {
  add(disc: Disc, thing: T): void;
  /** One that shares a cell with a disc, and is as asked for; those that only share the cell are asked about too. */
  find(disc: Disc, is: (thing: T) => boolean): T | undefined;
}

/** Side of a cell, larger than most specks, so that few cells are looked into, in pixels. */
const SIDE = 64;
/** More cells than a picture has down, and so few that the number of a cell is one that is fast to look up. */
const COLUMN = 2 ** 16;

const first = (at: number, r: number): number => Math.floor((at - r) / SIDE);
const last = (at: number, r: number): number => Math.floor((at + r) / SIDE);

export function createDiscGrid<T>(): DiscGrid<T> {
  const cells = new Map<number, T[]>();
  return {
    add({ x, y, r }, thing) {
      for (let row = first(y, r); row <= last(y, r); row++)
        for (let column = first(x, r); column <= last(x, r); column++) {
          const cell = cells.get(COLUMN * column + row);
          if (cell) cell.push(thing);
          else cells.set(COLUMN * column + row, [thing]);
        }
    },
    find({ x, y, r }, is) {
      for (let row = first(y, r); row <= last(y, r); row++)
        for (let column = first(x, r); column <= last(x, r); column++) {
          const found = cells.get(COLUMN * column + row)?.find(is);
          if (found !== undefined) return found;
        }
      return undefined;
    },
  };
}
