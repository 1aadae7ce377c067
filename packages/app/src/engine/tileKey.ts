import type { Rect } from '@fennip/core';
import { TILE_SIZE } from '@fennip/core';

/** The picture without its mends or those that are compared, with all of them, or what differs between the two. */
export type Side = 'before' | 'after' | 'difference';

/** One tile of one side. */
export interface TileKey {
  readonly side: Side;
  readonly level: number;
  readonly column: number;
  readonly row: number;
}

/** What a page is told of changes on the table. */
export interface Repainter {
  /**
   * The pixels in a rectangle of the full-size picture have changed, on one side or another.
   *
   * @param follows which list of wanted tiles is being painted anew without asking; null: none is
   */
  changed(rect: Rect, follows: number | null): void;
  /** A wanted tile as it is now, and the list that it was wanted on. */
  painted(key: TileKey, bitmap: ImageBitmap, list: number): void;
}

/** The rectangle of the full-size picture that a tile shows. */
export function coveredRect({ level, column, row }: TileKey): Rect {
  const side = TILE_SIZE * 2 ** level;
  return { left: column * side, top: row * side, width: side, height: side };
}
