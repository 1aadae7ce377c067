import type { Pixels } from '../../raster/pixels.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { StrokeTarget } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { applyMend } from '../applyMend.ts';
import { canvasOf } from '../canvas.ts';
import type { BridgeMend } from '../bridge/bridgeMend.ts';
import type { RecoverMend } from '../recover/recoverMend.ts';
import type { SpotMend } from '../spotMend.ts';
import { layPatch } from '../../raster/patch.ts';
import { bandLeft } from './bandLeft.ts';
import { bridgeReach } from './bridgeReach.ts';

/**
 * A line that still departs from its surroundings as a band, in spreads of theirs, is closed as a whole where that leaves
 * less than a share of it. From `plain` on a band is seen on any ground. From `seen` on it may be the ground itself that
 * departs there: a line that lets more through than `plenty` is not given up then. All by trial: the first on the scans
 * of a print, the others on scratches and hairs over six scenes, where they choose what errs less to within 0.4 dB.
 */
const BAND = { plain: 2, plainShare: 0.5, seen: 0.7, seenShare: 0.35, plenty: 0.3 };
/** How far beyond its own reach a mended line is looked at, in pixels. */
export const BAND_LOOK = 6;

/** How much of a line still shows as a band once it is mended. */
function bandAfter(mend: SpotMend, target: StrokeTarget, reach: number, pixels: Pixels): number {
  const rect = intersectRects(targetBounds(target, reach + BAND_LOOK), pictureRect(pixels.shape));
  if (isEmpty(rect)) return 0;
  const window = pixels.window(rect);
  const raster = cloneRaster(window.raster);
  layPatch(applyMend(mend, canvasOf(pixels)), { ...window, raster });
  return bandLeft(target, reach, { ...window, raster });
}

/**
 * Whether a line that was undone by a hair too little or too much still shows, and would not if it were closed whole.
 *
 * @param share how much of it can be recovered, 0 to 1
 */
export function leavesBand(mend: RecoverMend, share: number, pixels: Pixels): boolean {
  const { target } = mend;
  if (target.shape !== 'stroke') return false;
  const closed: BridgeMend = { ...mend, ...bridgeReach(mend, pixels), method: 'bridge' };
  const reach = target.width / 2 + Math.max(mend.margin + mend.edge, closed.margin + closed.edge);
  const left = bandAfter(mend, target, reach, pixels);
  if (left <= BAND.seen || (left <= BAND.plain && share >= BAND.plenty)) return false;
  const most = left > BAND.plain ? BAND.plainShare : BAND.seenShare;
  return bandAfter(closed, target, reach, pixels) < most * left;
}
