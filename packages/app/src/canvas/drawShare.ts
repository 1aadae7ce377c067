import type { Rect } from '@fennip/core/raster';
import type { Scene } from './drawPicture.ts';
import { isDrawnSharp, screenOf } from './drawPicture.ts';
import type { Comparing } from './drawSides.ts';
import { drawSides, isBeside, sidesOf } from './drawSides.ts';
import type { TileCache } from './tileCache.ts';
import type { Drawing, Share } from './useFrames.ts';

/** A part of the table that is drawn well within one frame. */
const SOON_DONE = 0.3;

/** The part of the screen that a share of the picture is drawn on. */
function partOf(scene: Scene, tiles: TileCache, comparing: Comparing, share: Share): Rect | 'nothing' {
  const whole = { left: 0, top: 0, ...scene.table };
  if (share === 'all') return whole;
  if ('from' in share) {
    // Whole pixels of the screen: bands meet without a seam.
    const ratio = scene.pixelRatio;
    const [top, bottom] = [share.from, share.to].map((at) => Math.round(at * whole.height * ratio) / ratio);
    return { ...whole, top, height: bottom - top };
  }
  // Side by side a tile is in sight twice.
  return isBeside(comparing) ? whole : screenOf(scene, tiles, share, sidesOf(comparing));
}

/** Draws a share of the picture, and of what lies around it; what would take longer than a frame is left as it is. */
export function drawShare(
  context: CanvasRenderingContext2D,
  scene: Scene,
  tiles: TileCache,
  comparing: Comparing,
  share: Share,
  surround: string,
): Drawing {
  const part = partOf(scene, tiles, comparing, share);
  if (part === 'nothing') return 'well';
  const { left, top, width, height } = part;
  const isQuick = scene.isMoving || isDrawnSharp(scene);
  if (!isQuick && width * height > SOON_DONE * scene.table.width * scene.table.height) return 'too much';
  context.save();
  context.beginPath();
  context.rect(left, top, width, height);
  context.clip();
  context.fillStyle = surround;
  context.fillRect(left, top, width, height);
  drawSides(context, scene, tiles, comparing);
  context.restore();
  return scene.isMoving && !isDrawnSharp(scene) ? 'quickly' : 'well';
}
