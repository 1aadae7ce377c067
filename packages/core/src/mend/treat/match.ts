import { labOf, lightOfLab } from '../../colour/lab.ts';
import { labPlanes } from '../../colour/labPlanes.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { Rect } from '../../raster/rect.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Target } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { targetDistance } from '../../target/targetDistance.ts';
import { colourPlanes } from '../patch.ts';
import type { Ground } from './ground.ts';
import { lightTables } from './tone.ts';
import type { LabStatistics, MatchMend } from './treatment.ts';

/** Spreads are brought together by at most this factor: more would make noise of what is even. */
const MOST_STRETCH = 2.5;
/** Spread of an even patch, in L*a*b*. */
const EVEN = 0.5;

/** Mean and spread of L*, a* and b* inside a target; null where it lies outside the picture. */
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
export function match(
  { from, to }: MatchMend,
  { raster, rect: whole, picture }: Ground,
  rect: Rect,
): Float32Array[] {
  const planes = colourPlanes(raster);
  const tables = lightTables(planes.length, picture);
  const [red, green, blue] = planes.length === 3 ? [0, 1, 2] : [0, 0, 0];
  const factors = from.spread.map((own, k) =>
    Math.min(MOST_STRETCH, Math.max(1 / MOST_STRETCH, (to.spread[k] + EVEN) / (own + EVEN))),
  );
  const values = planes.map(() => new Float32Array(rect.width * rect.height));
  for (let y = 0, i = 0; y < rect.height; y++)
    for (let x = 0; x < rect.width; x++, i++) {
      const at = (rect.top + y - whole.top) * raster.stride + rect.left + x - whole.left;
      const light = (c: number): number => tables[c].light[planes[c][at]];
      const lab = labOf(light(red), light(green), light(blue));
      const moved = (k: 0 | 1 | 2): number => to.mean[k] + factors[k] * (lab[k] - from.mean[k]);
      const matched = lightOfLab([Math.max(0, moved(0)), moved(1), moved(2)]);
      for (let c = 0; c < planes.length; c++) values[c][i] = tables[c].encode(matched[c]);
    }
  return values;
}
