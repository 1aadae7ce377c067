import type { Pixels } from '../../raster/pixels.ts';
import { cloneRaster } from '../../raster/raster.ts';
import { growRect, intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Place } from '../../source/occupied.ts';
import type { Patch } from '../patch.ts';
import { layPatch } from '../patch.ts';
import type { MendMeasure } from './measureMend.ts';
import { measureMend } from './measureMend.ts';

/** What a mend thinks of itself. */
export interface Verdict {
  readonly verdict: 'nothing changed' | 'worse' | 'structure lost' | 'good';
  readonly measure: MendMeasure;
}

/** Width in pixels of the surroundings a mend is held against. */
const AROUND = 5;
/** A mean change below this is not seen: less than one code of 255. */
const UNSEEN = 0.7 / 255;
/** A seam so many times the ring's own steps shows. */
export const VISIBLE_SEAM = 1.7;
/** A middle that departs so many spreads of the ring shows. */
const VISIBLE_DEPARTURE = 1.5;
/** Grain beyond these shares of the surroundings' shows as a smear, or as rough. */
export const VISIBLE_GRAIN = { least: 0.5, most: 2 };
const STRUCTURE = 0.5;
/** More than this share of the edges around that stop at the mend shows as a patch. */
const UNMET = 0.5;

function judge(measure: MendMeasure): Verdict['verdict'] {
  const { change, seam, seamBefore, departure, departureBefore, grain, structureLost, edgesUnmet } = measure;
  if (change < UNSEEN) return 'nothing changed';
  if (structureLost >= STRUCTURE) return 'structure lost';
  const hasSeam = seam > VISIBLE_SEAM && seam > 0.9 * seamBefore;
  const departs = departure > VISIBLE_DEPARTURE && departure > 0.8 * departureBefore;
  const isSmeared = grain < VISIBLE_GRAIN.least || grain > VISIBLE_GRAIN.most;
  return hasSeam || departs || isSmeared || edgesUnmet > UNMET ? 'worse' : 'good';
}

/**
 * Judges what a mend would lay down, against its surroundings and the picture before.
 * @returns null where it covers nothing
 */
export function judgeMend(patch: Patch, pixels: Pixels): Verdict | null {
  if (isEmpty(patch.rect)) return null;
  const rect = intersectRects(growRect(patch.rect, AROUND), pictureRect(pixels.shape));
  const window = pixels.window(rect);
  const before = cloneRaster(window.raster);
  const after = cloneRaster(window.raster);
  layPatch(patch, { ...window, raster: after });
  const coverage = new Float32Array(rect.width * rect.height);
  for (let y = 0; y < patch.rect.height; y++)
    coverage.set(
      patch.coverage.subarray(y * patch.rect.width, (y + 1) * patch.rect.width),
      (y + patch.rect.top - rect.top) * rect.width + patch.rect.left - rect.left,
    );
  if (coverage.every((amount) => amount === 0)) return null;
  const measure = measureMend({ before, after, coverage });
  return { verdict: judge(measure), measure };
}

/** How often a source has been used already: the sum of its overlaps with earlier ones, as shares. (0 is fresh.) */
export const wearOf = ({ x, y, r }: Place, used: readonly Place[]): number =>
  used.reduce((sum, other) => sum + Math.max(0, 1 - Math.hypot(other.x - x, other.y - y) / (other.r + r)), 0);
