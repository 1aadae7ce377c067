import { lumaPlane } from '../../raster/float.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { cloneRaster } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { growRect, intersectRects, isEmpty } from '../../raster/rect.ts';
import { narrowWindow, pictureRect } from '../../raster/window.ts';
import type { Place } from '../../source/occupied.ts';
import { distanceToSet } from '../../target/distanceTransform.ts';
import type { Patch } from '../../raster/patch.ts';
import { layPatch } from '../../raster/patch.ts';
import type { EdgesMeasure } from './measureEdges.ts';
import { edgesReach, measureEdges } from './measureEdges.ts';
import type { MendView, RingMeasure } from './measureRing.ts';
import { measureRing } from './measureRing.ts';

/** What can be measured on a mend without knowing the truth. */
export interface MendMeasure extends RingMeasure, EdgesMeasure {}

/** What a mend thinks of itself. */
export interface Verdict {
  readonly verdict: 'nothing changed' | 'structure lost' | 'worse' | 'edges stop' | 'good';
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
/**
 * From this on the edges that stop at a mend show: something went on here. By eye, over 152 rebuilds (docs/benches.md):
 * neither how well a rebuild's patches fit nor how far other seeds differ tells the good from the bad as well.
 */
const VISIBLE_EDGES = 6;

function judge(measure: MendMeasure): Verdict['verdict'] {
  const { change, seam, seamBefore, departure, departureBefore, grain, structureLost, edgesUnmet } = measure;
  if (change < UNSEEN) return 'nothing changed';
  if (structureLost > VISIBLE_EDGES) return 'structure lost';
  const hasSeam = seam > VISIBLE_SEAM && seam > 0.9 * seamBefore;
  const departs = departure > VISIBLE_DEPARTURE && departure > 0.8 * departureBefore;
  const isSmeared = grain < VISIBLE_GRAIN.least || grain > VISIBLE_GRAIN.most;
  if (hasSeam || departs || isSmeared) return 'worse';
  return edgesUnmet > VISIBLE_EDGES ? 'edges stop' : 'good';
}

/** How much a patch covers of each pixel of a rectangle. */
function coveredOn({ rect, coverage }: Patch, { left, top, width, height }: Rect): Float32Array {
  const out = new Float32Array(width * height);
  const from = Math.max(0, left - rect.left);
  const to = Math.min(rect.width, left + width - rect.left);
  for (let y = Math.max(0, top - rect.top); y < Math.min(rect.height, top + height - rect.top); y++)
    out.set(
      coverage.subarray(y * rect.width + from, y * rect.width + to),
      (y + rect.top - top) * width + rect.left + from - left,
    );
  return out;
}

/** How far from its border the inmost pixel of a mend lies, in pixels; the picture's end is no border. */
function inmostOf(patch: Patch, rect: Rect): number {
  const coverage = coveredOn(patch, rect);
  const open = new Uint8Array(coverage.length);
  for (let i = 0; i < open.length; i++) open[i] = coverage[i] > 0 ? 0 : 1;
  const away = distanceToSet(open, rect.width, rect.height);
  let inmost = 0;
  for (let i = 0; i < away.length; i++) if (away[i] > inmost) inmost = away[i];
  return Math.min(rect.width, inmost);
}

/**
 * Judges what a mend would lay down, against its surroundings and the picture before.
 *
 * @param patch values in codes of the picture's depth, with a coverage of 0 to 1
 * @param pixels encoded values around it, without the mend
 * @returns null where it covers nothing
 */
export function judgeMend(patch: Patch, pixels: Pixels): Verdict | null {
  if (isEmpty(patch.rect) || patch.coverage.every((amount) => amount === 0)) return null;
  const around = (by: number): Rect => intersectRects(growRect(patch.rect, by), pictureRect(pixels.shape));
  const inmost = inmostOf(patch, around(1));
  const wide = around(edgesReach(inmost));
  const before = pixels.window(wide);
  const after = { ...before, raster: cloneRaster(before.raster) };
  layPatch(patch, after);
  const viewOn = (rect: Rect): MendView => ({
    before: lumaPlane(narrowWindow(before, rect).raster),
    after: lumaPlane(narrowWindow(after, rect).raster),
    coverage: coveredOn(patch, rect),
  });
  const measure = { ...measureRing(viewOn(around(AROUND))), ...measureEdges(viewOn(wide), inmost) };
  return { verdict: judge(measure), measure };
}

/** How often a source has been used already: the sum of its overlaps with earlier ones, as shares. (0 is fresh.) */
export const wearOf = ({ x, y, r }: Place, used: readonly Place[]): number =>
  used.reduce((sum, other) => sum + Math.max(0, 1 - Math.hypot(other.x - x, other.y - y) / (other.r + r)), 0);
