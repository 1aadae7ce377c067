import type { PictureShape, Rect } from '@fennip/core/raster';
import { pyramidLevels } from '@fennip/core/raster';
import { onLevel } from './onLevel.ts';
import type { LevelPart } from './tileKey.ts';

/** A part of the picture is shown in a cell of the proof with at least so many pixels of its longer side, if it has them. */
const LEAST_SIDE = 256;

/** A part of the picture as fine as a cell of the proof can show it: what winds over all of it is not read at full size. */
export function partForCell(rect: Rect, picture: PictureShape): LevelPart {
  const coarsest = pyramidLevels(picture.width, picture.height).length - 1;
  const halvings = Math.floor(Math.log2(Math.max(1, rect.width, rect.height) / LEAST_SIDE));
  const level = Math.max(0, Math.min(coarsest, halvings));
  return { level, rect: onLevel(rect, level, picture) };
}
