import type { Fault } from '../../fault/fault.ts';
import { alongPath } from '../lines/courses.ts';
import { createPlaceGrid } from '../placeGrid.ts';

/** A line that may be one of several descriptions of the same. */
export interface LineShape {
  readonly fault: Fault;
  /** True if it was measured on the picture rather than read from the maps of a net, which have half its resolution. */
  readonly isMeasured: boolean;
}

/** Lines are held against one another at places so far apart, and lie on one another when so near, in pixels; half the width is added. */
const [APART, NEAR, FARTHEST] = [2, 2.5, 8];
/** Another line describes the same when it runs along so much of it, and is at least so many times as sure. */
const [COVERS, SURE] = [0.7, 0.2];
/** A measured line is worth one from the maps that is so many times as long. */
const MEASURED = 1.2;

interface PlaceOnShape {
  readonly x: number;
  readonly y: number;
  readonly of: number;
}

/**
 * Each line, as sure as it is, with the course, width and kind of the one that describes it best: the longest that runs along
 * it and is nearly as sure. A tear whose end the net does not see keeps that end.
 */
export function bestShapes(lines: readonly LineShape[]): Fault[] {
  const grid = createPlaceGrid<PlaceOnShape>(FARTHEST);
  const courses = lines.map(({ fault: { path = [] } }) => alongPath(path, APART));
  courses.forEach((places, of) => {
    for (const [x, y] of places) grid.add(x, y, { x, y, of });
  });
  const worth = lines.map(({ isMeasured }, k) => (isMeasured ? MEASURED : 1) * courses[k].length);
  return lines.map(({ fault }, own) => {
    const counts = new Map<number, number>();
    for (const [x, y] of courses[own]) {
      const near = new Set<number>();
      grid.some(x, y, (place) => {
        const reach = Math.min(FARTHEST, NEAR + lines[place.of].fault.r);
        if ((place.x - x) ** 2 + (place.y - y) ** 2 < reach * reach) near.add(place.of);
        return false;
      });
      for (const of of near) counts.set(of, (counts.get(of) ?? 0) + 1);
    }
    let best = own;
    for (const [other, count] of counts) {
      const { polarity, confidence } = lines[other].fault;
      const isSame = polarity === fault.polarity && count >= COVERS * courses[own].length;
      if (isSame && confidence >= SURE * fault.confidence && worth[other] > worth[best]) best = other;
    }
    return best === own ? fault : { ...lines[best].fault, confidence: fault.confidence };
  });
}
