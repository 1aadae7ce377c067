import type { Side } from '../engine/paint/tileKey.ts';
import type { Comparison } from '../stores/view.ts';
import type { Scene } from './drawPicture.ts';
import { drawPicture } from './drawPicture.ts';
import type { TileCache } from './tileCache.ts';

/** A part of the table and the side of the picture that is seen in it. */
export interface Pane {
  readonly side: Side;
  readonly left: number;
  readonly top: number;
  readonly width: number;
  readonly height: number;
}

/** What is compared, and how. */
export interface Comparing {
  readonly comparison: Comparison;
  readonly splitAt: number;
  readonly isOriginalHeld: boolean;
  /** Which side blinking shows now. */
  readonly isBlinkedBefore: boolean;
}

/** The parts that a table of this size is divided into. */
export function panesOf(comparing: Comparing, width: number, height: number): Pane[] {
  const whole = (side: Side): Pane[] => [{ side, left: 0, top: 0, width, height }];
  if (comparing.isOriginalHeld) return whole('before');
  switch (comparing.comparison) {
    case 'none':
      return whole('after');
    case 'difference':
      return whole('difference');
    case 'blinking':
      return whole(comparing.isBlinkedBefore ? 'before' : 'after');
    case 'split': {
      const at = width * comparing.splitAt;
      return [
        { side: 'before', left: 0, top: 0, width: at, height },
        { side: 'after', left: at, top: 0, width: width - at, height },
      ];
    }
    case 'stacked': {
      const at = height * comparing.splitAt;
      return [
        { side: 'before', left: 0, top: 0, width, height: at },
        { side: 'after', left: 0, top: at, width, height: height - at },
      ];
    }
    case 'side by side':
      return [
        { side: 'before', left: 0, top: 0, width: width / 2, height },
        { side: 'after', left: width / 2, top: 0, width: width / 2, height },
      ];
  }
}

/** The sides whose tiles a comparison needs; what is about to be shown as well. */
export function sidesOf({ comparison, isOriginalHeld }: Comparing): Side[] {
  if (comparison === 'difference') return isOriginalHeld ? ['difference', 'before'] : ['difference'];
  return comparison === 'none' && !isOriginalHeld ? ['after'] : ['after', 'before'];
}

/** True if each half of the table shows the same place. */
export const isBeside = ({
  comparison,
  isOriginalHeld,
}: Pick<Comparing, 'comparison' | 'isOriginalHeld'>): boolean =>
  comparison === 'side by side' && !isOriginalHeld;

/** Draws every pane. Side by side each half shows the same place, in its own middle. */
export function drawSides(
  context: CanvasRenderingContext2D,
  scene: Scene,
  tiles: TileCache,
  comparing: Comparing,
): void {
  const { width, height } = scene.table;
  for (const pane of panesOf(comparing, width, height)) {
    context.save();
    context.beginPath();
    context.rect(pane.left, pane.top, pane.width, pane.height);
    context.clip();
    if (isBeside(comparing)) context.translate(pane.left + pane.width / 2 - width / 2, 0);
    drawPicture(context, scene, tiles, pane.side);
    context.restore();
  }
}
