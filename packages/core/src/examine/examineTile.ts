import type { Pixels } from '../raster/pixels.ts';
import type { Fault } from './fault.ts';
import type { SpeckOptions } from './specks/findSpecks.ts';
import { findSpecks } from './specks/findSpecks.ts';
import type { ExamineTile } from './tiles.ts';

/** Finds the specks whose centre lies in a tile. */
export function examineTile(tile: ExamineTile, pixels: Pixels, options: SpeckOptions): Fault[] {
  const { left, top, width, height } = tile.keep;
  return findSpecks(pixels.window(tile.read), options).filter(
    (fault) => fault.x >= left && fault.y >= top && fault.x < left + width && fault.y < top + height,
  );
}
