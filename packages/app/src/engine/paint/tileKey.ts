import type { Rect } from '@fennip/core/raster';
import { TILE_SIZE } from '@fennip/core/raster';

/** The picture without its mends or those that are compared, with all of them, or what differs between the two. */
export type Side = 'before' | 'after' | 'difference';

/** One tile of one side. */
export interface TileKey {
  readonly side: Side;
  readonly level: number;
  readonly column: number;
  readonly row: number;
}

/** A part of one level, as it lies among what is seen; in pixels of that level. */
export interface LevelPart {
  readonly level: number;
  readonly rect: Rect;
}

/** What is in sight of one side: it can be painted as one sheet instead of tile by tile. */
export interface Seen extends LevelPart {
  readonly side: Side;
}

/** What a page hears of changes on the table. */
export interface Repainter {
  /**
   * The pixels in a rectangle of the full-size picture have changed, on one side or another.
   *
   * @param follows which list of wanted tiles is being painted anew without asking; null: none is; 'sheet': what is in
   *   sight comes as a sheet, and tiles need not be asked for before things rest
   */
  changed(rect: Rect, follows: Follows): void;
  /** A wanted tile as it is now, and the list that it was wanted on. */
  painted(key: TileKey, bitmap: ImageBitmap, list: number): void;
  /** A part of what is in sight as it is now, and the list that was wanted then. */
  laid(part: LevelPart, bitmap: ImageBitmap, list: number): void;
  /** What changed of the finest level in sight, on the side with all mends: shown until the tiles that hold it come. */
  touched(part: LevelPart, bitmap: ImageBitmap, list: number): void;
}

export type Follows = number | 'sheet' | null;

/** The part of its level that a tile is; at the picture's end it may be less. */
export const partOfTile = ({ level, column, row }: TileKey): LevelPart => ({
  level,
  rect: { left: column * TILE_SIZE, top: row * TILE_SIZE, width: TILE_SIZE, height: TILE_SIZE },
});

/** The rectangle of the full-size picture that a tile shows. */
export function coveredRect({ level, column, row }: TileKey): Rect {
  const side = TILE_SIZE * 2 ** level;
  return { left: column * side, top: row * side, width: side, height: side };
}
