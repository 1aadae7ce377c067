import type { LevelSize, Rect } from '@fennip/core/raster';
import { TILE_SIZE, intersectRects, isEmpty, rectHolds, uniteRects } from '@fennip/core/raster';
import type { LevelPart, Side, TileKey } from '../engine/paint/tileKey.ts';
import { partOfTile } from '../engine/paint/tileKey.ts';
import type { ArrivedPart, Sheet, TileCache } from './tileCache.ts';
import type { Size, Viewport } from './viewport.ts';
import { levelFor, screenToSeen, seenToScreen } from './viewport.ts';

/** From this scale on every pixel of the picture is drawn as a sharp square. */
const SHARP_FROM = 1;

export interface Scene {
  readonly view: Viewport;
  readonly table: Size;
  readonly picture: Size;
  readonly pixelRatio: number;
  /** Drawn quickly while something moves or changes; well as soon as it rests. */
  readonly isMoving: boolean;
  /** The finest level that is there: 0 is full size. */
  readonly finestLevel: number;
}

/** The tiles of one level that are in sight, from the middle outwards. */
export function tilesInSight(scene: Scene, cache: TileCache, level: number, side: Side): TileKey[] {
  const { view, table, picture } = scene;
  const span = TILE_SIZE * 2 ** level;
  const [left, top] = screenToSeen(view, table, 0, 0);
  const [right, bottom] = screenToSeen(view, table, table.width, table.height);
  const size = cache.levels[level];
  const lastColumn = Math.ceil(size.width / TILE_SIZE) - 1;
  const lastRow = Math.ceil(size.height / TILE_SIZE) - 1;
  const keys: TileKey[] = [];
  for (
    let row = Math.max(0, Math.floor(top / span));
    row <= Math.min(lastRow, Math.floor(bottom / span));
    row++
  )
    for (
      let column = Math.max(0, Math.floor(left / span));
      column <= Math.min(lastColumn, Math.floor(right / span));
      column++
    )
      keys.push({ side, level, column, row });
  const fromMiddle = ({ column, row }: TileKey): number =>
    Math.hypot(
      (column + 0.5) * span - Math.min(picture.width, view.x),
      (row + 0.5) * span - Math.min(picture.height, view.y),
    );
  return keys.sort((a, b) => fromMiddle(a) - fromMiddle(b));
}

/** The level that a scene is drawn from. */
export const sceneLevel = (scene: Scene, cache: TileCache): number =>
  levelFor(scene.view.scale, scene.pixelRatio, cache.levels.length, scene.finestLevel);

/** Where a part of a level lies on the screen, in whole device pixels: neighbours meet without a seam. */
function partOnScreen(scene: Scene, { level, rect }: LevelPart): Rect {
  const unit = 2 ** level;
  const [x, y] = [rect.left * unit, rect.top * unit];
  const [left, top] = seenToScreen(scene.view, scene.table, x, y);
  const right = left + Math.min(rect.width * unit, scene.picture.width - x) * scene.view.scale;
  const bottom = top + Math.min(rect.height * unit, scene.picture.height - y) * scene.view.scale;
  const ratio = scene.pixelRatio;
  const snap = (value: number): number => Math.round(value * ratio) / ratio;
  const [l, t] = [snap(left), snap(top)];
  return { left: l, top: t, width: snap(right) - l, height: snap(bottom) - t };
}

function drawPart(
  context: CanvasRenderingContext2D,
  scene: Scene,
  part: LevelPart,
  bitmap: ImageBitmap,
): void {
  const { left, top, width, height } = partOnScreen(scene, part);
  context.drawImage(bitmap, left, top, width, height);
}

function drawTile(context: CanvasRenderingContext2D, scene: Scene, key: TileKey, bitmap: ImageBitmap): void {
  const { level, rect } = partOfTile(key);
  const { width, height } = bitmap;
  drawPart(context, scene, { level, rect: { ...rect, width, height } }, bitmap);
}

/** The part of the screen that looks different because parts of these sides came; coarse ones change nothing under finer ones. */
export function screenOf(
  scene: Scene,
  cache: TileCache,
  arrived: readonly ArrivedPart[],
  sides: readonly Side[],
): Rect | 'nothing' {
  const level = sceneLevel(scene, cache);
  const isCovered = sides.every((side) =>
    tilesInSight(scene, cache, level, side).every((key) => cache.get(key)),
  );
  const screen = { left: 0, top: 0, ...scene.table };
  const parts = arrived
    .filter((part) => part.isSheet || part.level === level || (part.level > level && !isCovered))
    .map((part) => intersectRects(partOnScreen(scene, part), screen))
    .filter((part) => !isEmpty(part));
  return parts.length === 0 ? 'nothing' : parts.reduce(uniteRects);
}

/** A sheet is painted on the coarser level if its pixels are drawn no larger than so many of the screen's. */
const MOST_ENLARGED = 1.42;

/** The part in sight of the level that is good enough while things change, in whole pixels of it. */
export function partInSight(scene: Scene, cache: TileCache): LevelPart {
  const fine = sceneLevel(scene, cache);
  const enlarged = scene.view.scale * scene.pixelRatio * 2 ** (fine + 1);
  const level = enlarged <= MOST_ENLARGED && fine + 1 < cache.levels.length ? fine + 1 : fine;
  const unit = 2 ** level;
  const { width, height } = cache.levels[level];
  const [left, top] = screenToSeen(scene.view, scene.table, 0, 0);
  const [right, bottom] = screenToSeen(scene.view, scene.table, scene.table.width, scene.table.height);
  const [l, t] = [Math.floor(left / unit), Math.floor(top / unit)];
  const all = { left: l, top: t, width: Math.ceil(right / unit) - l, height: Math.ceil(bottom / unit) - t };
  return { level, rect: intersectRects(all, { left: 0, top: 0, width, height }) };
}

/** True if sheets lie over all that is in sight. */
function areSheetsWhole(scene: Scene, cache: TileCache): boolean {
  if (!cache.hasSheets()) return false;
  const { level, rect } = partInSight(scene, cache);
  const over = [...cache.sheets()]
    .filter((sheet) => sheet.level === level && rectHolds(rect, sheet.rect))
    // Bands of one sheet do not overlap.
    .reduce((sum, sheet) => sum + sheet.rect.width * sheet.rect.height, 0);
  return over === rect.width * rect.height;
}

/** True if pixels are drawn as they are, quickly and well alike. */
export const isDrawnSharp = (scene: Scene): boolean => scene.view.scale >= SHARP_FROM;

/** Draws one side of the picture: coarse levels first where finer ones are still on their way. */
export function drawPicture(
  context: CanvasRenderingContext2D,
  scene: Scene,
  cache: TileCache,
  side: Side,
): void {
  context.imageSmoothingEnabled = !isDrawnSharp(scene);
  context.imageSmoothingQuality = scene.isMoving ? 'low' : 'high';
  if (side !== 'after' || !areSheetsWhole(scene, cache)) drawTiles(context, scene, cache, side);
  if (side !== 'after') return;
  for (const sheet of cache.sheets()) drawPart(context, scene, sheet, sheet.bitmap);
  for (const touch of cache.touches()) drawTouch(context, scene, touch, cache.levels[touch.level]);
}

/** Draws a part that changed in the grid of the tiles that hold it: when they come, no pixel of it moves. */
function drawTouch(
  context: CanvasRenderingContext2D,
  scene: Scene,
  { level, rect, bitmap }: Sheet,
  size: LevelSize,
): void {
  const first = { column: Math.floor(rect.left / TILE_SIZE), row: Math.floor(rect.top / TILE_SIZE) };
  for (let row = first.row; row * TILE_SIZE < rect.top + rect.height; row++)
    for (let column = first.column; column * TILE_SIZE < rect.left + rect.width; column++) {
      const asked = partOfTile({ side: 'after', level, column, row }).rect;
      const tile = intersectRects(asked, { left: 0, top: 0, ...size });
      const seen = partOnScreen(scene, { level, rect: tile });
      const [scaleX, scaleY] = [seen.width / tile.width, seen.height / tile.height];
      const { left, top, width, height } = intersectRects(rect, tile);
      context.drawImage(
        bitmap,
        ...([left - rect.left, top - rect.top, width, height] as const),
        ...([seen.left + (left - tile.left) * scaleX, seen.top + (top - tile.top) * scaleY] as const),
        ...([width * scaleX, height * scaleY] as const),
      );
    }
}

function drawTiles(context: CanvasRenderingContext2D, scene: Scene, cache: TileCache, side: Side): void {
  const level = sceneLevel(scene, cache);
  const fine = tilesInSight(scene, cache, level, side).map((key) => ({
    key,
    bitmap: cache.get(key) ?? (side === 'after' ? cache.get({ ...key, side: 'before' }) : null),
  }));
  const isGappy = fine.some(({ bitmap }) => bitmap === null);
  for (let coarse = cache.levels.length - 1; coarse > level && isGappy; coarse--) {
    for (const key of tilesInSight(scene, cache, coarse, side)) {
      const bitmap = cache.get(key);
      if (bitmap) drawTile(context, scene, key, bitmap);
    }
  }
  for (const { key, bitmap } of fine) if (bitmap) drawTile(context, scene, key, bitmap);
}
