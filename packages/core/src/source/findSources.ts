import { allowanceOn } from '../fence/allowance.ts';
import type { Fence } from '../fence/fence.ts';
import { lumaPlane } from '../raster/float.ts';
import type { Pixels } from '../raster/pixels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { Rect } from '../raster/rect.ts';
import { growRect, intersectRects, isEmpty, rectsMeet } from '../raster/rect.ts';
import { pictureRect } from '../raster/window.ts';
import type { Reach } from '../target/targetField.ts';
import { footprintRect, targetField } from '../target/targetField.ts';
import { occupiedPixels, placeRect } from './occupied.ts';
import type { Place } from './occupied.ts';
import { sampleTarget, targetReach } from './sampleTarget.ts';
import { tangentOf } from './tangentOf.ts';
import { sourceCost } from './sourceCost.ts';
import type { Shift } from './source.ts';

export interface SourceQuery extends Reach {
  /** Places no source may be taken from: open faults, guards. */
  readonly avoid: readonly Place[];
  /** Places that earlier mends took their source from; each use makes a place less welcome. */
  readonly used: readonly Place[];
  /** Pixels of the whole picture no source may be taken from, row after row; all may where it is missing. */
  readonly forbidden?: Uint8Array;
  /** Guards, and the zone that bounds the mend: no source may be taken from beyond them. */
  readonly fences?: readonly Fence[];
  readonly zone?: string;
}

/** One possible source; a lower cost is better. The unit is that of {@link sourceCost}. */
export interface SourceCandidate extends Shift {
  readonly cost: number;
}

/** How many candidates are kept for the restorer to step through. */
export const MOST_SOURCES = 6;
/** Width in pixels of the ring that is matched. */
const RING = 4;
/** Distances that are tried, as multiples of the target's reach; the nearest just clears the target. */
const DISTANCES = [1, 1.3, 1.7, 2.3, 3.1, 4.2];
const DIRECTIONS = 24;
/** Distances that are tried along the line of equal tone, where the best sources lie. */
const ALONG = [1, 1.15, 1.3, 1.5, 1.75, 2, 2.4, 2.9, 3.5, 4.2];
/** How many of the best are moved about for a better fit. */
const REFINED = 8;

/** The farthest that a source is looked for, in pixels. */
function searchDistance(query: Reach): number {
  return Math.ceil(DISTANCES[DISTANCES.length - 1] * targetReach(query)) + 8;
}

/** The rectangle {@link findSources} looks at. */
export function searchRect(query: Reach, picture: PictureShape): Rect {
  const footprint = footprintRect(query, picture);
  if (isEmpty(footprint)) return footprint;
  return intersectRects(growRect(footprint, searchDistance(query) + RING), pictureRect(picture));
}

/** Shifts all around the target, near ones first, and more of them along the line of equal tone. */
function shiftsAround(reach: number, tangent: readonly [number, number]): Shift[] {
  const along = ALONG.flatMap((distance) =>
    [1, -1].map((way) => ({
      dx: Math.round(way * distance * reach * tangent[0]),
      dy: Math.round(way * distance * reach * tangent[1]),
    })),
  );
  const around = DISTANCES.flatMap((distance) =>
    Array.from({ length: DIRECTIONS }, (_, k) => {
      const angle = (2 * Math.PI * k) / DIRECTIONS;
      return {
        dx: Math.round(distance * reach * Math.cos(angle)),
        dy: Math.round(distance * reach * Math.sin(angle)),
      };
    }),
  );
  return [...along, ...around];
}

/**
 * Finds where a target's texture can be taken from: places whose surroundings match the target's own after mean and
 * plane are taken off, with the same roughness and nothing standing out in the middle, near rather than far, along
 * the line of equal tone rather than across it, and never over a place to avoid. Works on encoded luma.
 *
 * @param query its target in pixels of the upright original
 * @param pixels encoded values of what {@link searchRect} asks for
 * @returns at most {@link MOST_SOURCES}, best first, no two closer than half the target; none when nothing fits
 */
export function findSources(query: SourceQuery, pixels: Pixels): SourceCandidate[] {
  const field = targetField(query, pixels.shape, RING);
  if (isEmpty(field.rect)) return [];
  const search = searchRect(query, pixels.shape);
  const samples = sampleTarget(field);
  if (samples.inside.x.length === 0 || samples.ring.x.length < 6) return [];
  const luma = lumaPlane(pixels.window(search).raster);
  const cost = sourceCost({
    samples,
    luma,
    search,
    field,
    occupied: fencedPixels(query, search, pixels.shape, occupiedPixels(search, query, pixels.shape.width)),
    used: query.used.filter((place) => rectsMeet(placeRect(place), search)),
    reach: targetReach(query),
  });

  const tangent = tangentOf(luma, samples.ring, search);
  const rated = shiftsAround(targetReach(query), tangent)
    .map((shift) => ({ ...shift, cost: cost(shift) }))
    .filter((candidate) => Number.isFinite(candidate.cost))
    .sort(byCost);
  const refined = rated.slice(0, REFINED).map((candidate) => settle(candidate, cost));
  return keepApart([...refined, ...rated.slice(REFINED)].sort(byCost), targetReach(query) / 2);
}

/** Adds what fences keep to the pixels no source may touch. */
function fencedPixels(
  { fences = [], zone }: SourceQuery,
  search: Rect,
  picture: PictureShape,
  occupied: Uint8Array,
): Uint8Array {
  const allowance = allowanceOn(fences, zone, search, picture);
  return allowance ? occupied.map((isTaken, i) => (isTaken || allowance[i] < 1 ? 1 : 0)) : occupied;
}

const byCost = (a: SourceCandidate, b: SourceCandidate): number =>
  a.cost - b.cost || a.dy - b.dy || a.dx - b.dx;

/** Walks downhill in steps of 4, 2 and 1 pixels. */
function settle(start: SourceCandidate, cost: (shift: Shift) => number): SourceCandidate {
  let best = start;
  for (const step of [4, 2, 1]) {
    const centre = best;
    for (let dy = -step; dy <= step; dy += step) {
      for (let dx = -step; dx <= step; dx += step) {
        if (dx === 0 && dy === 0) continue;
        const shift = { dx: centre.dx + dx, dy: centre.dy + dy };
        const there = cost(shift);
        if (there < best.cost) best = { ...shift, cost: there };
      }
    }
  }
  return best;
}

function keepApart(sorted: readonly SourceCandidate[], apart: number): SourceCandidate[] {
  const kept: SourceCandidate[] = [];
  for (const candidate of sorted) {
    if (kept.length === MOST_SOURCES) break;
    if (kept.every((k) => Math.hypot(k.dx - candidate.dx, k.dy - candidate.dy) >= apart))
      kept.push(candidate);
  }
  return kept;
}
