import type { Pixels } from '../../raster/pixels.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import type { MendBase } from '../mendBase.ts';
import { EXTENT_LOOK, lineExtent } from './lineExtent.ts';

/** A bridge keeps close: every pixel that it need not invent tells it more. */
export const BRIDGE_REACH = { margin: 0.5, edge: 0.5 };

/** How far a bridge reaches: over all that is seen of a line. */
export function bridgeReach({ target }: MendBase, pixels: Pixels): Pick<MendBase, 'margin' | 'edge'> {
  if (target.shape !== 'stroke') return BRIDGE_REACH;
  const rect = intersectRects(targetBounds(target, EXTENT_LOOK), pictureRect(pixels.shape));
  const extent = isEmpty(rect) ? null : lineExtent(target, pixels.window(rect));
  if (extent === null) return BRIDGE_REACH;
  return { ...BRIDGE_REACH, margin: Math.max(BRIDGE_REACH.margin, extent - target.width / 2) };
}
