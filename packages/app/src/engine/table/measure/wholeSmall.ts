import type { Raster } from '@fennip/core/raster';
import { pyramidLevels } from '@fennip/core/raster';
import type { OpenPicture } from '../openPicture.ts';
import { inPieces } from '../paintSide.ts';
import { mendPart } from '../../paint/paintTile.ts';
import type { TiledPicture } from '../../paint/tileStore.ts';

/** The longest side of the level on which the whole picture is measured. */
const MEASURED_SIDE = 1600;

/** The level on which the whole picture is measured: large enough to be true, small enough to be quick. */
export function measuredLevel({ width, height }: TiledPicture): number {
  const level = pyramidLevels(width, height).findIndex(
    (size) => Math.max(size.width, size.height) <= MEASURED_SIDE,
  );
  return Math.max(0, level);
}

/** All of the mended picture on the level on which it is measured. */
export async function wholeSmall(picture: OpenPicture): Promise<{ level: number; raster: Raster }> {
  const { tiles, mended } = picture;
  const level = measuredLevel(tiles.picture);
  const { width, height } = pyramidLevels(tiles.picture.width, tiles.picture.height)[level];
  const whole = await tiles.part(level, { left: 0, top: 0, width, height });
  const workshop = { ...inPieces(picture), ready: tiles.ready };
  return { level, raster: await mendPart(whole, { level, left: 0, top: 0 }, mended, workshop) };
}
