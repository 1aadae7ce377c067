import type { LikenessPlanes, Touch, ZoneProposal } from '@fennip/core/fence';
import type { Raster, Rect } from '@fennip/core/raster';
import type { MaskTarget, SpanRows, Target } from '@fennip/core/target';
import {
  areaOfTarget,
  combineAreas,
  growByLikeness,
  likenessPlanes,
  refineBorder,
  proposeZones,
} from '@fennip/core/fence';
import { scaleTarget } from '@fennip/core/mend';
import { TILE_SIZE, copyRaster, createRaster, pyramidLevels } from '@fennip/core/raster';
import { maskOfSpans, spansOfPixels, targetMiddle } from '@fennip/core/target';
import type { DrawnTouch } from './drawnTouch.ts';
import type { TileStore } from '../paint/tileStore.ts';

/** The longest side of the level an area is grown on: likeness of a whole picture within a tenth of a second. */
const GROWN_ON = 1000;
/** How far from a border refining looks, in pixels of the finer level. */
const LOOKS_AROUND = 12;

interface Measured {
  readonly tiles: TileStore;
  readonly level: number;
  readonly planes: LikenessPlanes;
}

/** Measured once for each picture. */
let measured: Measured | null = null;

/** A level of the picture, or those tiles of it that are needed; the others stay black. */
async function levelOf(
  tiles: TileStore,
  level: number,
  isNeeded: (column: number, row: number) => boolean,
): Promise<Raster> {
  const { picture } = tiles;
  const { width, height } = pyramidLevels(picture.width, picture.height)[level];
  const whole = createRaster(width, height, picture.channels, picture.depth);
  const wanted: Promise<void>[] = [];
  for (let row = 0; row * TILE_SIZE < height; row++)
    for (let column = 0; column * TILE_SIZE < width; column++) {
      if (!isNeeded(column, row)) continue;
      const copied = tiles
        .tile(level, column, row)
        .then((tile) => copyRaster(tile, whole, column * TILE_SIZE, row * TILE_SIZE));
      wanted.push(copied);
    }
  await Promise.all(wanted);
  return whole;
}

async function measure(tiles: TileStore): Promise<Measured> {
  if (measured?.tiles === tiles) return measured;
  const { picture } = tiles;
  const levels = pyramidLevels(picture.width, picture.height);
  const small = levels.findIndex(({ width, height }) => Math.max(width, height) <= GROWN_ON);
  const level = small < 0 ? levels.length - 1 : small;
  const planes = likenessPlanes(await levelOf(tiles, level, () => true), picture.transfer);
  measured = { tiles, level, planes };
  return measured;
}

/** What a touch covers on a smaller level; at least the pixel it is on. */
function touchOn({ target, takes }: DrawnTouch, level: number, { width, height }: LikenessPlanes): Touch {
  const onLevel = scaleTarget(target, 2 ** level);
  const { rows, top } = areaOfTarget(onLevel, { width, height });
  const pixels = rows.flatMap((row, k) => {
    const found: number[] = [];
    for (let s = 0; s < row.length; s += 2)
      for (let x = row[s]; x < row[s + 1]; x++) found.push((top + k) * width + x);
    return found;
  });
  if (pixels.length > 0) return { takes, pixels };
  const [x, y] = targetMiddle(onLevel);
  const [column, row] = [Math.floor(x), Math.floor(y)];
  const isThere = column >= 0 && row >= 0 && column < width && row < height;
  return { takes, pixels: isThere ? [row * width + column] : [] };
}

function inside(from: Measured, touches: readonly DrawnTouch[], reach: number): Uint8Array {
  const { planes, level } = from;
  return growByLikeness(
    planes,
    touches.map((touch) => touchOn(touch, level, planes)),
    reach,
  );
}

const joined = (base: Target | null, grown: SpanRows, tiles: TileStore): MaskTarget | null =>
  maskOfSpans(base ? combineAreas(areaOfTarget(base, tiles.picture), grown, 'add') : grown);

/** The area that grows from touches, at once: every pixel of the small level stands for all that it covers. */
export async function growRoughly(
  tiles: TileStore,
  touches: readonly DrawnTouch[],
  reach: number,
  base: Target | null,
): Promise<MaskTarget | null> {
  const from = await measure(tiles);
  const { width, height } = from.planes;
  const coarse = spansOfPixels(inside(from, touches, reach), { left: 0, top: 0, width, height });
  const times = 2 ** from.level;
  const { picture } = tiles;
  const rows = Array.from({ length: picture.height }, (_, y) =>
    coarse.rows[Math.min(height - 1, Math.floor(y / times))].map((x) => Math.min(picture.width, x * times)),
  );
  return joined(base, { top: 0, rows }, tiles);
}

/** True if the border of an area, twice as large as here, runs through a rectangle of the finer level. */
function isCut(coarse: Uint8Array, width: number, { left, top, ...size }: Rect): boolean {
  const height = coarse.length / width;
  const clamp = (value: number, most: number): number => Math.max(0, Math.min(most, value >> 1));
  const [fromX, toX] = [
    clamp(left - LOOKS_AROUND, width - 1),
    clamp(left + size.width + LOOKS_AROUND, width - 1),
  ];
  const [fromY, toY] = [
    clamp(top - LOOKS_AROUND, height - 1),
    clamp(top + size.height + LOOKS_AROUND, height - 1),
  ];
  const first = coarse[fromY * width + fromX];
  for (let y = fromY; y <= toY; y++)
    for (let x = fromX; x <= toX; x++) if (coarse[y * width + x] !== first) return true;
  return false;
}

/** The large even parts the program sees by itself. */
export const zonesSeen = async (tiles: TileStore): Promise<ZoneProposal[]> =>
  proposeZones((await measure(tiles)).planes);

/** The area of a zone that was proposed, with its border where the full-size picture has the edge. */
export async function areaOfProposal(tiles: TileStore, pixels: Uint8Array): Promise<MaskTarget | null> {
  return refined(tiles, await measure(tiles), pixels, null);
}

/** The area that grows from touches, refined level by level. */
export async function grow(
  tiles: TileStore,
  touches: readonly DrawnTouch[],
  reach: number,
  base: Target | null,
): Promise<MaskTarget | null> {
  const from = await measure(tiles);
  return refined(tiles, from, inside(from, touches, reach), base);
}

/** Takes an area from the small level to the full-size picture; only tiles with a border on them are loaded. */
async function refined(
  tiles: TileStore,
  from: Measured,
  found: Uint8Array,
  base: Target | null,
): Promise<MaskTarget | null> {
  let area = found;
  let { width } = from.planes;
  for (let level = from.level - 1; level >= 0; level--) {
    const [coarse, coarseWidth] = [area, width];
    const finer = await levelOf(tiles, level, (column, row) =>
      isCut(coarse, coarseWidth, {
        left: column * TILE_SIZE,
        top: row * TILE_SIZE,
        width: TILE_SIZE,
        height: TILE_SIZE,
      }),
    );
    area = refineBorder(coarse, coarseWidth, finer);
    ({ width } = finer);
  }
  const height = area.length / width;
  return joined(base, spansOfPixels(area, { left: 0, top: 0, width, height }), tiles);
}
