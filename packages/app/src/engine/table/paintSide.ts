import type { Lamp } from '@fennip/core/lamp';
import type { Raster, Rect } from '@fennip/core/raster';
import type { MendedPicture } from '@fennip/core/recipe';
import { lampReach } from '@fennip/core/lamp';
import { growRect, intersectRects, pyramidLevels, viewRaster } from '@fennip/core/raster';
import { difference } from '../paint/difference.ts';
import { finishReachOn } from '../paint/finishPart.ts';
import { framePart } from '../paint/framePart.ts';
import { onLevel } from '../paint/onLevel.ts';
import type { OpenPicture } from './openPicture.ts';
import { finishOf, groundOf, wholeOf } from './openPicture.ts';
import type { LevelPlace, Workshop } from '../paint/paintTile.ts';
import { mendPart, reachOnLevel } from '../paint/paintTile.ts';
import { sendBitmap } from '../paint/sendBitmap.ts';
import type { LevelPart, Side, TileKey } from '../paint/tileKey.ts';
import { partOfTile } from '../paint/tileKey.ts';

/** How the treatments on what is seen are worked out, see {@link Workshop}. */
export type Way = Pick<Workshop, 'treat' | 'isAsSeen'>;

/** Piece by piece, each once: what is kept of them stands until something changes. */
export const inPieces = ({ table }: OpenPicture): Way => ({ treat: table.team.treat, isAsSeen: false });

/** Only where it is looked at, where no pieces are at hand: for what is small, and for what is soon to be another. */
export const asSeen = ({ table }: OpenPicture): Way => ({ treat: table.team.treat, isAsSeen: true });

const PLAIN: Lamp = { kind: 'plain' };

/** A part of a level under the finish. */
export const finished = (picture: OpenPicture, part: Raster, place: LevelPlace): Promise<Raster> =>
  picture.table.team.finish(part, place, groundOf(picture));

/** A part of a level as one side shows it. */
async function sideOf(
  picture: OpenPicture,
  part: Raster,
  place: LevelPlace,
  side: Side,
  way: Way,
): Promise<Raster> {
  const { mended, other, tiles, comparesFinish } = picture;
  const workshop = { ...way, ready: tiles.ready };
  const withMends = (): Promise<Raster> => mendPart(part, place, mended, workshop);
  const without = async (): Promise<Raster> => (other ? mendPart(part, place, other, workshop) : part);
  switch (side) {
    case 'before':
      return comparesFinish ? withMends() : finished(picture, await without(), place);
    case 'after':
      return finished(picture, await withMends(), place);
    case 'difference': {
      const after = await withMends();
      return comparesFinish
        ? difference(after, await finished(picture, after, place))
        : difference(await without(), after);
    }
  }
}

/** The pictures that a part of the table may show. */
const mendedOf = ({ mended, other }: OpenPicture): MendedPicture[] => (other ? [mended, other] : [mended]);

/** How far around a part of a level must be known for the treatments and the finish on it. */
function sidesReach(picture: OpenPicture, rect: Rect, level: number, { isAsSeen }: Way): number {
  const around = finishReachOn(finishOf(picture), level);
  const wide = growRect(rect, around);
  return around + Math.max(...mendedOf(picture).map((mended) => reachOnLevel(wide, level, mended, isAsSeen)));
}

/** A rectangle of a level on one side, under the lamp. A difference is shown as it is. */
export async function litPart(
  picture: OpenPicture,
  { level, rect }: LevelPart,
  side: Side,
  way: Way,
): Promise<Raster> {
  const { table, tiles } = picture;
  const lamp = side === 'difference' ? PLAIN : table.lamp;
  const reach = lampReach(lamp, level);
  const around = reach + sidesReach(picture, growRect(rect, reach), level, way);
  const wide = intersectRects(growRect(rect, around), onLevel(wholeOf(picture), level, tiles.picture));
  const place = { level, left: wide.left, top: wide.top };
  const seen = await sideOf(picture, await tiles.part(level, wide), place, side, way);
  const lit = await table.team.light(seen, place, lamp);
  return viewRaster(lit, { ...rect, left: rect.left - wide.left, top: rect.top - wide.top });
}

/** A part of a level of what is seen on one side. */
export async function partSeen(
  picture: OpenPicture,
  side: Side,
  { level, rect }: LevelPart,
  way: Way = inPieces(picture),
): Promise<Raster> {
  const { framing, tiles } = picture;
  const read = (part: Rect): Promise<Raster> => litPart(picture, { level, rect: part }, side, way);
  return framing ? framePart(framing, tiles.picture, rect, level, read) : read(rect);
}

/** One tile of one side, as the screen takes it. */
export async function painted(picture: OpenPicture, key: TileKey): Promise<ImageBitmap> {
  const { side, level, column, row } = key;
  const { framing, table, tiles } = picture;
  const { width, height } = pyramidLevels(
    framing?.width ?? tiles.picture.width,
    framing?.height ?? tiles.picture.height,
  )[level];
  const rect = intersectRects(partOfTile(key).rect, { left: 0, top: 0, width, height });
  const way = inPieces(picture);
  if (!framing && table.lamp.kind === 'plain' && sidesReach(picture, rect, level, way) === 0) {
    const tile = await tiles.tile(level, column, row);
    return sendBitmap(await sideOf(picture, tile, { level, left: rect.left, top: rect.top }, side, way));
  }
  return sendBitmap(await partSeen(picture, side, { level, rect }));
}

/** A part of a level of the upright picture as it came in or as it is mended, without lamp and finish. */
export async function plainPart(
  picture: OpenPicture,
  { level, rect }: LevelPart,
  side: 'before' | 'after',
): Promise<Raster> {
  const { tiles, mended } = picture;
  if (side === 'before') return tiles.part(level, rect);
  const around = reachOnLevel(rect, level, mended, true);
  const wide = intersectRects(growRect(rect, around), onLevel(wholeOf(picture), level, tiles.picture));
  const workshop = { ...asSeen(picture), ready: tiles.ready };
  const place = { level, left: wide.left, top: wide.top };
  const seen = await mendPart(await tiles.part(level, wide), place, mended, workshop);
  return viewRaster(seen, { ...rect, left: rect.left - wide.left, top: rect.top - wide.top });
}

/** Full-size pixels of the upright picture as it is mended, without lamp and finish. */
export async function mendedPixels(picture: OpenPicture, rect: Rect): Promise<Raster> {
  await picture.tiles.ready([rect]);
  return plainPart(picture, { level: 0, rect }, 'after');
}
