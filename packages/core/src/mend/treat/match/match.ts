import { labPlanes, lightPlanes, movedLab } from '../../../colour/labPlanes.ts';
import type { Pixels } from '../../../raster/pixels.ts';
import type { Rect } from '../../../raster/rect.ts';
import { intersectRects, isEmpty } from '../../../raster/rect.ts';
import { pictureRect } from '../../../raster/window.ts';
import type { Target } from '../../../target/target.ts';
import { targetBounds } from '../../../target/targetBounds.ts';
import { targetDistance } from '../../../target/targetDistance.ts';
import type { Ground } from '../ground.ts';
import { inCodes, partOf } from '../tone/tone.ts';
import type { LabStatistics } from './matchMend.ts';
import type { MatchMend } from './matchMend.ts';

/** Spreads are brought together by at most this factor: more would make noise of what is even. */
const MOST_STRETCH = 2.5;
/** Spread of an even patch, in L*a*b*. */
const EVEN = 0.5;

/**
 * Mean and spread of L*, a* and b* inside a target; null where it lies outside the picture.
 *
 * @param pixels encoded values; they go through linear light to CIE L*a*b* (D65)
 */
export function labStatistics(target: Target, pixels: Pixels): LabStatistics | null {
  const rect = intersectRects(targetBounds(target, 0), pictureRect(pixels.shape));
  if (isEmpty(rect)) return null;
  const lab = labPlanes(pixels.window(rect).raster, pixels.shape.transfer);
  const inside = targetDistance(target, rect);
  const statistics = lab.map((plane) => {
    let [count, sum, squares] = [0, 0, 0];
    for (let i = 0; i < plane.length; i++) {
      if (inside[i] > 0) continue;
      count++;
      sum += plane[i];
      squares += plane[i] * plane[i];
    }
    const mean = count > 0 ? sum / count : 0;
    return { count, mean, spread: Math.sqrt(Math.max(0, squares / Math.max(1, count) - mean * mean)) };
  });
  if (statistics[0].count === 0) return null;
  const [l, a, b] = statistics;
  return { mean: [l.mean, a.mean, b.mean], spread: [l.spread, a.spread, b.spread] };
}

/** Brings mean and spread of L*a*b* from those of one patch to those of another. (Reinhard et al. 2001.) */
export function match({ from, to }: MatchMend, ground: Ground, rect: Rect): Float32Array[] {
  const [lightness, a, b] = from.spread.map((own, k) =>
    Math.min(MOST_STRETCH, Math.max(1 / MOST_STRETCH, (to.spread[k] + EVEN) / (own + EVEN))),
  );
  const moved = movedLab(lightPlanes(partOf(ground, rect), ground.picture.transfer), {
    lightness: { times: lightness, plus: to.mean[0] - lightness * from.mean[0] },
    turn: [a, 0, 0, b],
    plus: [to.mean[1] - a * from.mean[1], to.mean[2] - b * from.mean[2]],
  });
  return inCodes(moved, ground);
}
