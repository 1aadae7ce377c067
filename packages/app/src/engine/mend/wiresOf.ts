import type { Fault } from '@fennip/core/fault';
import { scaleFault } from '@fennip/core/fault';
import { LONGEST_FOR_WIRES, findWires } from '@fennip/core/examine';
import { pyramidLevels } from '@fennip/core/raster';
import type { TileStore } from '../paint/tileStore.ts';

/** Looks for wires and the like on the whole picture, on the level that they are seen on. */
export async function wiresOf({ picture: { width, height }, part }: TileStore): Promise<Fault[]> {
  const levels = pyramidLevels(width, height);
  const fitting = levels.findIndex((level) => Math.max(level.width, level.height) <= LONGEST_FOR_WIRES);
  const level = fitting < 0 ? levels.length - 1 : fitting;
  const raster = await part(level, { left: 0, top: 0, ...levels[level] });
  return findWires(raster).map((fault) => scaleFault(fault, 2 ** level));
}
