import { lumaPlane } from '../../raster/float.ts';
import type { FloatPlane } from '../../raster/float.ts';
import type { Window } from '../../raster/window.ts';
import type { Point } from '../../target/target.ts';
import type { BorderPlace } from './borderPlaces.ts';
import { borderPlaces } from './borderPlaces.ts';
import { MOST_FOLLOWED, followEdge } from './followEdge.ts';

/** An edge of the subject that an area cuts through. */
export interface CutEdge {
  /** Where it meets the area's border. */
  readonly x: number;
  readonly y: number;
  /** The way it goes on into the area, radians. */
  readonly angle: number;
  /** Its step in encoded luma, 0 to 1. */
  readonly step: number;
  /** Its course outside of the area, away from it: in pixels of the picture, as far as it can be followed. */
  readonly course: readonly Point[];
}

/** Distances beyond the border at which it is looked, in pixels: clear of a soft border, near enough to go on. */
const BEYOND = [3.5, 5, 6.5];
/** How far around an outline its picture must be known. */
export const EDGES_LOOK = 10 + MOST_FOLLOWED;
/** Two places on the border whose tones are compared lie so far from the one between them, in pixels. */
const APART = 2;
/** An edge stands out from what is usual along the border so many times, and by so much at least. */
const TIMES_USUAL = 4;
const LEAST_STEP = 0.06;
/** Of edges nearer than this to one another the stronger counts, in pixels. */
const ONE_EDGE = 6;
/** The direction of an edge is measured over so much of its course, in pixels. */
const WAY = 14;
/** Half the side of the square in which an edge's direction is taken, in pixels. */
const TENSOR = 2;
/** An edge that runs along the border does not run into it: the least cosine to the way straight in. */
const INWARDS = 0.4;

/**
 * The direction of an edge outside a place of the border, pointed inwards: across the strongest gradient of a small
 * square (structure tensor, Foerstner and Guelch 1987). Null where it runs along the border.
 */
function directionAt({ width, data }: FloatPlane, { nx, ny }: BorderPlace, at: number): number | null {
  let [xx, xy, yy] = [0, 0, 0];
  for (let dy = -TENSOR; dy <= TENSOR; dy++)
    for (let dx = -TENSOR; dx <= TENSOR; dx++) {
      const i = at + dy * width + dx;
      const gx = data[i + 1] - data[i - 1];
      const gy = data[i + width] - data[i - width];
      xx += gx * gx;
      xy += gx * gy;
      yy += gy * gy;
    }
  const along = 0.5 * Math.atan2(2 * xy, xx - yy) + Math.PI / 2;
  const inwards = -(nx * Math.cos(along) + ny * Math.sin(along));
  if (Math.abs(inwards) < INWARDS) return null;
  return inwards > 0 ? along : along - Math.PI;
}

/** The way into an area of an edge whose course away from it is known. */
function wayIn(course: readonly Point[], fallback: number): number {
  const [[x, y]] = course;
  const far = course.findLast(([px, py]) => Math.hypot(px - x, py - y) <= WAY) ?? course[0];
  return Math.hypot(far[0] - x, far[1] - y) < WAY / 2 ? fallback : Math.atan2(y - far[1], x - far[0]);
}

/**
 * The edges of the subject that run into an area: what a repair must carry on. Read off the tones along a few lines
 * just outside the border; an edge is a step there that stands out from what is usual along it.
 *
 * @param outline closed, in pixels of the whole picture
 * @param clear how far around the outline the picture tells nothing: the margin of a mend, in pixels
 * @param window holds its bounds and `clear` and {@link EDGES_LOOK} around them, as far as the picture goes
 * @returns where each edge meets the border, in pixels of the whole picture, its direction inwards, and its step
 *   in encoded luma
 */
export function edgesInto(outline: readonly Point[], { left, top, raster }: Window, clear = 0): CutEdge[] {
  const luma = lumaPlane(raster);
  const { width, height, data } = luma;
  const places = borderPlaces(outline);
  const indexOf = ({ x, y, nx, ny }: BorderPlace, beyond: number): number => {
    const [px, py] = [
      Math.floor(x + (clear + beyond) * nx - left),
      Math.floor(y + (clear + beyond) * ny - top),
    ];
    const room = TENSOR + 1;
    const isNear = px < room || py < room || px >= width - room || py >= height - room;
    return isNear ? -1 : py * width + px;
  };
  const tones = places.map((place) => {
    const seen = BEYOND.map((beyond) => indexOf(place, beyond)).filter((at) => at >= 0);
    return seen.length > 0 ? seen.reduce((sum, at) => sum + data[at], 0) / seen.length : NaN;
  });
  const toneAt = (i: number): number => tones[(i + places.length) % places.length];
  const steps = places.map((_, i) => {
    const step = Math.abs(toneAt(i + APART) - toneAt(i - APART));
    return Number.isNaN(step) ? 0 : step;
  });
  const usual = Float64Array.from(steps).sort()[steps.length >> 1] ?? 0;
  const least = Math.max(LEAST_STEP, TIMES_USUAL * usual);
  const found: { readonly place: number; readonly edge: CutEdge }[] = [];
  const byStep = [...steps.keys()].filter((i) => steps[i] >= least).sort((a, b) => steps[b] - steps[a]);
  for (const i of byStep) {
    const apart = (other: number): number =>
      Math.min(Math.abs(i - other), places.length - Math.abs(i - other));
    if (found.some(({ place }) => apart(place) < ONE_EDGE)) continue;
    const at = indexOf(places[i], BEYOND[1]);
    const angle = at < 0 ? null : directionAt(luma, places[i], at);
    if (angle === null) continue;
    const { x, y, nx, ny } = places[i];
    const away = clear + BEYOND[1];
    const course = followEdge(luma, [x + away * nx - left, y + away * ny - top], angle + Math.PI).map(
      ([px, py]): Point => [px + left, py + top],
    );
    const own = wayIn(course, angle);
    // Back from where it is seen to the border.
    const back = away / Math.max(INWARDS, -(nx * Math.cos(own) + ny * Math.sin(own)));
    const [[seenX, seenY]] = course;
    const meets = { x: seenX + (back - clear) * Math.cos(own), y: seenY + (back - clear) * Math.sin(own) };
    found.push({ place: i, edge: { ...meets, angle: own, step: steps[i], course } });
  }
  return found.sort((a, b) => a.place - b.place).map(({ edge }) => edge);
}
