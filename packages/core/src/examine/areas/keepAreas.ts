import type { Rect } from '../../raster/rect.ts';
import { holdsPoint, rectsMeet } from '../../raster/rect.ts';
import type { Point } from '../../target/target.ts';
import { discOutline } from '../../target/discOutline.ts';
import { polygonPixels } from '../../target/polygonPixels.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { distanceToOutline } from '../../target/targetDistance.ts';
import type { Fault } from '../../fault/fault.ts';
import type { Shaped } from '../scoredFault.ts';
import { withoutFit } from '../scoredFault.ts';

/** Overlaps are counted on a grid of so many places along the longer side. */
const PLACES = 160;
/** Two areas that share so much of what either covers are one. */
const MOST_SHARED = 0.3;

const boundsOf = (points: readonly Point[]): Rect => targetBounds({ shape: 'outline', points }, 0);
const isInside = (x: number, y: number, points: readonly Point[]): boolean =>
  distanceToOutline(x, y, { shape: 'outline', points }) === 0;

/** What two areas share of what either covers, 0 to 1 (intersection over union). */
export function sharedArea(a: readonly Point[], b: readonly Point[]): number {
  const [first, second] = [boundsOf(a), boundsOf(b)];
  if (!rectsMeet(first, second)) return 0;
  const left = Math.min(first.left, second.left);
  const top = Math.min(first.top, second.top);
  const right = Math.max(first.left + first.width, second.left + second.width);
  const bottom = Math.max(first.top + first.height, second.top + second.height);
  const scale = PLACES / Math.max(right - left, bottom - top);
  const rect = {
    left: 0,
    top: 0,
    width: Math.ceil(scale * (right - left)),
    height: Math.ceil(scale * (bottom - top)),
  };
  const marks = [a, b].map((points) =>
    polygonPixels(
      points.map(([x, y]): Point => [scale * (x - left), scale * (y - top)]),
      rect,
    ),
  );
  let [both, either] = [0, 0];
  marks[0].forEach((inA, i) => {
    both += inA & marks[1][i];
    either += inA | marks[1][i];
  });
  return either > 0 ? both / either : 0;
}

/** Keeps of areas that cover one another the surest. */
export function keepAreas(areas: readonly Shaped[]): Fault[] {
  const kept: Shaped[] = [];
  for (const area of [...areas].sort((a, b) => b.confidence - a.confidence || b.fit - a.fit)) {
    const { outline = [] } = area;
    if (kept.some((other) => sharedArea(outline, other.outline ?? []) > MOST_SHARED)) continue;
    kept.push(area);
  }
  return kept.map(withoutFit);
}

/** An area that shares so much with a disc is one. */
const IS_DISC = 0.9;
/** A border as soft as this is that of a shadow, whatever threshold cuts it. */
const SHADOW = 0.35;

/** An area tells more than a disc: nearly as sure as one it stands in its place. */
const NEARLY = 0.9;
const standsFor = (area: Fault, speck: Fault): boolean => area.confidence >= NEARLY * speck.confidence;

/** True if an area is a speck seen as a whole rather than something of its own. */
function isOnlySpeck(area: Fault, speck: Fault): boolean {
  const shared = sharedArea(area.outline ?? [], discOutline(speck));
  if (shared <= MOST_SHARED) return false;
  if (!standsFor(area, speck)) return true;
  return speck.confidence >= area.confidence && (speck.softness >= SHADOW || shared > IS_DISC);
}

/** Leaves out the areas that are no more than a surer speck: a large one stands out as a whole, too. */
export const areasOffSpecks = (areas: readonly Fault[], specks: readonly Fault[]): Fault[] =>
  areas.filter(
    (area) =>
      !specks.some(
        (speck) =>
          Math.hypot(speck.x - area.x, speck.y - area.y) < Math.max(area.r, speck.r) &&
          isOnlySpeck(area, speck),
      ),
  );

/** Leaves out what lies in a surer area, dust on a loss goes with it, and the disc that an area was taken for. */
export function outsideAreas(faults: readonly Fault[], areas: readonly Fault[]): Fault[] {
  const bounded = areas.map((area) => ({ area, bounds: boundsOf(area.outline ?? []) }));
  return faults.filter(
    (fault) =>
      !bounded.some(({ area, bounds }) => {
        const { outline = [] } = area;
        if (!holdsPoint(bounds, fault.x, fault.y) || !isInside(fault.x, fault.y, outline)) return false;
        if (area.confidence >= fault.confidence) return true;
        if (fault.kind !== 'speck' || !standsFor(area, fault)) return false;
        return sharedArea(outline, discOutline(fault)) > MOST_SHARED;
      }),
  );
}
