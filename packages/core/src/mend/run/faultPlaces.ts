import { describeKind } from '../../fault/kinds.ts';
import type { Fault } from '../../fault/fault.ts';
import type { Place } from '../../source/occupied.ts';
import type { Point } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { distanceToOutline } from '../../target/targetDistance.ts';
import type { Mend } from '../mend.ts';
import { marginFor, sourcePlace } from '../proposeMend.ts';
import type { FaultToMend } from './faultToMend.ts';

/** The whole place of a fault: no source may touch even its soft border. */
export const faultPlace = (fault: Pick<Fault, 'x' | 'y' | 'r' | 'softness'>): Place => ({
  x: fault.x,
  y: fault.y,
  r: fault.r + marginFor(fault),
});

/** How far apart the round places lie that stand for a line. */
const PLACE_STEP = 2;

/** The places a fault takes up: one for a spot, a row of them for a line. */
function placesOf(fault: FaultToMend): Place[] {
  const whole = faultPlace(fault);
  if (fault.outline) return placesInside(fault.outline, OUTLINE_MARGIN);
  if (!fault.path) return [whole];
  return fault.path.flatMap(([x, y], i, path): Place[] => {
    if (i === 0) return [{ x, y, r: whole.r }];
    const [px, py] = path[i - 1];
    const steps = Math.max(1, Math.ceil(Math.hypot(x - px, y - py) / (PLACE_STEP * whole.r)));
    return Array.from({ length: steps }, (_, k) => {
      const t = (k + 1) / steps;
      return { x: px + t * (x - px), y: py + t * (y - py), r: whole.r };
    });
  });
}

/** How far a mend reaches beyond an area's border, in pixels. */
export const OUTLINE_MARGIN = 2;

/** How many round places stand for the longer side of an area. */
const AREA_PLACES = 16;

/** Round places that together cover an area and its soft border. */
function placesInside(outline: readonly Point[], margin: number): Place[] {
  const target = { shape: 'outline', points: outline } as const;
  const { left, top, width, height } = targetBounds(target, 0);
  const step = Math.max(1, Math.max(width, height) / AREA_PLACES);
  // A disc as wide as a cell's diagonal covers the cell.
  const r = step * Math.SQRT1_2 + margin;
  return Array.from({ length: Math.ceil(height / step) * Math.ceil(width / step) }, (_, i) => {
    const columns = Math.ceil(width / step);
    return { x: left + ((i % columns) + 0.5) * step, y: top + (Math.floor(i / columns) + 0.5) * step, r };
  }).filter(({ x, y }) => distanceToOutline(x, y, target) < step * Math.SQRT1_2);
}

/** Whether nothing of the picture is seen where a fault lies: a line, or what is torn off. Specks and stains let light through. */
const hides = ({ path, kind }: FaultToMend): boolean =>
  path !== undefined || (kind !== undefined && describeKind(kind).hidesPicture);

/**
 * The places that are taken by faults: no source may lie on one of them.
 *
 * @returns middles and radii in pixels of the upright original
 */
export const takenPlaces = (faults: readonly FaultToMend[]): Place[] =>
  faults.flatMap((fault) => {
    const places = placesOf(fault);
    return hides(fault) ? places.map((place) => ({ ...place, of: fault.fault ?? fault.id })) : places;
  });

/**
 * The places that mends take their sources from.
 *
 * @returns middles and radii in pixels of the upright original
 */
export const placesUsedBy = (mends: readonly Mend[]): Place[] =>
  mends.map(sourcePlace).filter((place): place is Place => place !== null);
