import type { Point, Target } from './target.ts';
import { targetBounds } from './targetBounds.ts';

/** The middle of a target's bounding box; of a disc, its centre. */
export function targetMiddle(target: Target): Point {
  if (target.shape === 'disc') return [target.x, target.y];
  const { left, top, width, height } = targetBounds(target, 0);
  return [left + width / 2, top + height / 2];
}
