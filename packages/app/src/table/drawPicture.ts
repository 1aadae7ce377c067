import { TILE_SIZE } from '@fennip/core';
import type { Side, TileKey } from '../engine/tileKey.ts';
import type { TileCache } from './tileCache.ts';
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

function drawTile(context: CanvasRenderingContext2D, scene: Scene, key: TileKey, bitmap: ImageBitmap): void {
  const span = TILE_SIZE * 2 ** key.level;
  const unit = 2 ** key.level;
  const [left, top] = seenToScreen(scene.view, scene.table, key.column * span, key.row * span);
  const right =
    left + Math.min(bitmap.width * unit, scene.picture.width - key.column * span) * scene.view.scale;
  const bottom =
    top + Math.min(bitmap.height * unit, scene.picture.height - key.row * span) * scene.view.scale;
  // Whole device pixels: neighbours meet without a seam.
  const ratio = scene.pixelRatio;
  const snap = (value: number): number => Math.round(value * ratio) / ratio;
  context.drawImage(bitmap, snap(left), snap(top), snap(right) - snap(left), snap(bottom) - snap(top));
}

/** Draws one side of the picture: coarse levels first where finer ones are still on their way. */
export function drawPicture(
  context: CanvasRenderingContext2D,
  scene: Scene,
  cache: TileCache,
  side: Side,
): void {
  const level = sceneLevel(scene, cache);
  context.imageSmoothingEnabled = scene.view.scale < SHARP_FROM;
  context.imageSmoothingQuality = scene.isMoving ? 'low' : 'high';
  for (let coarse = cache.levels.length - 1; coarse > level; coarse--) {
    for (const key of tilesInSight(scene, cache, coarse, side)) {
      const bitmap = cache.get(key);
      if (bitmap) drawTile(context, scene, key, bitmap);
    }
  }
  for (const key of tilesInSight(scene, cache, level, side)) {
    const bitmap = cache.get(key) ?? (side === 'after' ? cache.get({ ...key, side: 'before' }) : null);
    if (bitmap) drawTile(context, scene, key, bitmap);
  }
}
