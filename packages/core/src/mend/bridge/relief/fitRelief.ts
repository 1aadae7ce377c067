import { medianOf } from '../../../measure/medianOf.ts';
import type { Pixels } from '../../../raster/pixels.ts';
import type { Rect } from '../../../raster/rect.ts';
import { intersectRects, isEmpty } from '../../../raster/rect.ts';
import { pictureRect } from '../../../raster/window.ts';
import type { PictureShape } from '../../../raster/raster.ts';
import type { Point } from '../../../target/target.ts';
import { targetBounds } from '../../../target/targetBounds.ts';
import { logLight } from '../../recover/logLight.ts';
import { MOST_RELIEF, RELIEF_REACH } from './relief.ts';

/** So far from the course nothing is lit or shaded, in pixels. */
const GROUND = RELIEF_REACH;
/** A section across the course for about so many pixels along it; so many of them see the same grain. */
const EVERY = 2;
const ALIKE = 4;
/** Fewer sections than this tell nothing that holds all along. */
const LEAST_SECTIONS = 40;
/** What of a crack's blurred border is left beside it, in pixels. */
const BORDER = 0.5;
/** How steeply it rises towards the crack is measured over so many pixels. */
const TREND = 3;
/** A relief fainter than this, in logarithms of light, or less sure than so many standard errors, may be the picture's own. */
const LEAST = 0.02;
const SURE = 3;

/** The rectangle that {@link fitRelief} looks at. */
const reliefReads = (points: readonly Point[], picture: PictureShape): Rect =>
  intersectRects(targetBounds({ shape: 'stroke', points, width: 1 }, GROUND + 1), pictureRect(picture));

const mean = (values: readonly number[]): number => values.reduce((sum, v) => sum + v, 0) / values.length;

/** Logarithms of light across a course, as far as the ground to both sides, for every section that lies in the picture. */
function sectionsAcross(points: readonly Point[], rect: Rect, pixels: Pixels): number[][] {
  const planes = logLight(pixels, rect);
  const at = (x: number, y: number): number => {
    const [column, row] = [Math.floor(x) - rect.left, Math.floor(y) - rect.top];
    if (column < 0 || row < 0 || column >= rect.width || row >= rect.height) return NaN;
    return mean(planes.map((plane) => plane[row * rect.width + column]));
  };
  const sections: number[][] = [];
  for (let k = 1; k < points.length; k++) {
    const [[ax, ay], [bx, by]] = [points[k - 1], points[k]];
    const length = Math.hypot(bx - ax, by - ay);
    const [dx, dy] = [(bx - ax) / length, (by - ay) / length];
    for (let way = EVERY / 2; way < length; way += EVERY) {
      const section: number[] = [];
      // To the side on which distances from a course count positive.
      for (let t = -GROUND; t <= GROUND; t++)
        section.push(at(ax + way * dx - t * dy, ay + way * dy + t * dx));
      if (!section.some(Number.isNaN)) sections.push(section);
    }
  }
  return sections;
}

/**
 * One side of a relief, from the ground inwards to the crack. Neighbouring pixels of the picture are mostly alike, so that
 * the median of their differences is the relief's own; what it adds up to is known far better than from the light itself.
 *
 * @returns the relief by distance, and how many standard errors it reaches where it is not faint
 */
function sideOf(
  sections: readonly (readonly number[])[],
  side: number,
  cut: number,
): { readonly lit: number[]; readonly sureness: number } {
  const lit: number[] = Array.from({ length: GROUND + 1 }, () => 0);
  let [squares, sureness] = [0, 0];
  for (let t = GROUND - 1; t > cut; t--) {
    const steps = sections.map((section) => section[GROUND + side * t] - section[GROUND + side * (t + 1)]);
    const step = medianOf(steps);
    const spread = 1.48 * medianOf(steps.map((value) => Math.abs(value - step)));
    squares += (1.25 * spread) ** 2 / (sections.length / ALIKE);
    lit[t] = lit[t + 1] + step;
    if (Math.abs(lit[t]) >= LEAST) sureness = Math.max(sureness, Math.abs(lit[t]) / Math.sqrt(squares));
  }
  return { lit, sureness };
}

/**
 * How a crease lights the sheet beside it: what is the same all along it, by distance, against the ground farther out.
 * The picture under it differs from place to place, and falls out of the median of what changes from pixel to pixel.
 *
 * @param points its course in pixels of the picture
 * @param width full width of its crack, in pixels
 * @returns natural logarithms of linear light, from -{@link RELIEF_REACH} to {@link RELIEF_REACH} pixels across; null
 *   where nothing is seen
 */
export function fitRelief(points: readonly Point[], width: number, pixels: Pixels): number[] | null {
  const rect = reliefReads(points, pixels.shape);
  if (isEmpty(rect)) return null;
  const sections = sectionsAcross(points, rect, pixels);
  if (sections.length < LEAST_SECTIONS) return null;
  const cut = Math.ceil(width / 2 + BORDER);
  const sides = [-1, 1].map((side) => sideOf(sections, side, cut));
  if (Math.hypot(...sides.map(({ sureness }) => sureness)) < SURE) return null;
  const relief = Array.from({ length: 2 * RELIEF_REACH + 1 }, (_, i) => {
    const t = i - RELIEF_REACH;
    const [before, after] = sides.map(({ lit }) => lit);
    const lit = t < 0 ? before : after;
    if (Math.abs(t) > cut) return lit[Math.abs(t)];
    // Towards the crack it goes on as it came; there the two sides meet at an angle.
    const slope = (lit[cut + 1] - lit[cut + 1 + TREND]) / TREND;
    return t === 0 ? 0 : lit[cut + 1] + slope * (cut + 1 - Math.abs(t));
  });
  return relief.every((value) => Math.abs(value) <= MOST_RELIEF) ? relief : null;
}
