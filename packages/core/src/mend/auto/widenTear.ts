import type { Polarity } from '../../fault/fault.ts';
import type { FaultKind } from '../../fault/kinds.ts';
import { medianOf } from '../../measure/medianOf.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Pixels } from '../../raster/pixels.ts';
import type { PictureShape } from '../../raster/raster.ts';
import type { Rect } from '../../raster/rect.ts';
import { intersectRects, isEmpty } from '../../raster/rect.ts';
import { pictureRect } from '../../raster/window.ts';
import type { Point, StrokeTarget } from '../../target/target.ts';
import { targetBounds } from '../../target/targetBounds.ts';
import { cheapestCourse } from '../recover/line/cheapestCourse.ts';
import { THIN } from '../mendWish.ts';
import { moveSideways } from '../recover/line/followLine.ts';

/** A tear or a crease that ends nearer to the edge of the picture than this goes on to it: a share of the shorter side. */
const NEAR_EDGE = 0.05;
/** Which way it goes on follows from its last pixels. */
const LAST = 40;
/** It is carried on by so many pixels at a time, and at most so many times as far as the edge is away. */
const STRIDE = 4;
const MOST_WAY = 2.5;
/** It may lie so far beside the straight way on, in pixels, and turns by no more than so many a stride. */
const BESIDE = 8;
const MOST_TURN = 2;
/** On the flat top of a wide tear it goes straight on: what a pixel aside costs, in encoded luma. */
const STRAIGHTER = 0.002;
/** The widest to either side that a tear can gape, in pixels; what lies around it is measured farther out. */
const WIDEST = 12;
const GROUND = { from: 13, to: 19 };
/** A tear ends where it departs from what lies beside it by less than this share of its depth, or than chance does. */
const LEAST_SHARE = 0.12;
/** What a crease lights beside it is less bright than its crack by more than this share. */
const CRACK_SHARE = 0.5;
const BY_CHANCE = 3;
/** Fibres of paper leave gaps in it, in pixels. */
const FIBRE = 1.5;
const STEP = 0.5;
/** It gapes about as wide as at so many points before and after. */
const ALIKE = 2;
/** Its torn rim is a little wider here and there. */
const RIM = 1;

/** How far around a line its picture must be known, in pixels. */
const GAPING_LOOK = GROUND.to + BESIDE + 2;

/** True if a line is one that goes through the sheet, to its edge. */
const goesThrough = (kind: FaultKind | undefined, path: readonly Point[]): boolean =>
  (kind === 'tear' || kind === 'crease') && path.length > 1;

const fromEdge = ([x, y]: Point, { width, height }: PictureShape): number =>
  Math.min(x, y, width - x, height - y);

/** The points by which a line goes straight on from its last one to the edge of the picture; none where it ends inside. */
function straightOn(points: readonly Point[], picture: PictureShape): Point[] {
  const end = points[points.length - 1];
  const away = fromEdge(end, picture);
  if (away <= 0 || away > NEAR_EDGE * Math.min(picture.width, picture.height)) return [];
  const back = points.findLast(([x, y]) => Math.hypot(end[0] - x, end[1] - y) >= LAST) ?? points[0];
  const length = Math.hypot(end[0] - back[0], end[1] - back[1]);
  if (length === 0) return [];
  const [dx, dy] = [(end[0] - back[0]) / length, (end[1] - back[1]) / length];
  const on: Point[] = [];
  for (let way = STRIDE; way <= MOST_WAY * away + STRIDE; way += STRIDE) {
    const place: Point = [end[0] + way * dx, end[1] + way * dy];
    on.push(place);
    if (fromEdge(place, picture) < 0) return on;
  }
  return [];
}

/** A line's course with both of its ends straight on to the edge of the sheet, and how many points came on before and after it. */
function carriedOn(
  path: readonly Point[],
  picture: PictureShape,
): { points: Point[]; before: number; after: number } {
  const [before, after] = [straightOn([...path].reverse(), picture).reverse(), straightOn(path, picture)];
  return { points: [...before, ...path, ...after], before: before.length, after: after.length };
}

/** The longest and widest that {@link widenTear} can make of a line, with what it looks at. */
export function widestTear(
  path: readonly Point[],
  width: number,
  kind: FaultKind | undefined,
  picture: PictureShape,
): { readonly target: StrokeTarget; readonly reads: Rect } {
  const isLonger = goesThrough(kind, path);
  const points = isLonger ? carriedOn(path, picture).points : path;
  const target = { shape: 'stroke', points, width: isLonger ? 2 * (WIDEST + BESIDE) : width } as const;
  const around = targetBounds({ ...target, width: 1 }, isLonger ? GAPING_LOOK : 0);
  return { target, reads: intersectRects(around, pictureRect(picture)) };
}

/** Luma across a course. */
interface Section {
  /** The mean over some pixels along the course, at a distance from one of its points, as {@link lineCoordinates} counts it; not a number outside. */
  at(point: number, across: number): number;
}

function sectionOf(points: readonly Point[], rect: Rect, pixels: Pixels): Section {
  const { width, height, data } = lumaPlane(pixels.window(rect).raster);
  const ways = points.map((_, k): Point => {
    const [from, to] = [points[Math.max(0, k - 1)], points[Math.min(points.length - 1, k + 1)]];
    const length = Math.hypot(to[0] - from[0], to[1] - from[1]) || 1;
    return [(to[0] - from[0]) / length, (to[1] - from[1]) / length];
  });
  return {
    at(k, across) {
      const [[x, y], [wx, wy]] = [points[k], ways[k]];
      let [sum, count] = [0, 0];
      for (let along = -1; along <= 1; along++) {
        const column = Math.floor(x + along * wx - across * wy - rect.left);
        const row = Math.floor(y + along * wy + across * wx - rect.top);
        if (column < 0 || row < 0 || column >= width || row >= height) continue;
        sum += data[row * width + column];
        count++;
      }
      return count > 0 ? sum / count : NaN;
    },
  };
}

/** Luma between two distances from the course, on one side. */
const beside = (section: Section, k: number, from: number, to: number, middle = 0): number[] =>
  Array.from({ length: Math.round(Math.abs(to - from)) + 1 }, (_, i) =>
    section.at(k, middle + from + i * Math.sign(to - from)),
  ).filter((value) => !Number.isNaN(value));

/** How far a line departs from what lies on both sides of it, about a place across its course. */
function departure(section: Section, k: number, middle: number, half: number, sign: number): number {
  const own = beside(section, k, -half, half, middle);
  const around = [
    ...beside(section, k, GROUND.from, GROUND.to, middle),
    ...beside(section, k, -GROUND.from, -GROUND.to, middle),
  ];
  if (own.length === 0 || around.length === 0) return 0;
  return sign * (own.reduce((a, b) => a + b, 0) / own.length - medianOf(around));
}

/** Shifts of a run of points across the course to where the line is seen, beginning from one that stays where it is. */
function shiftsAlong(section: Section, run: readonly number[], half: number, sign: number): number[] {
  const shifts = Array.from({ length: 2 * BESIDE + 1 }, (_, j) => j - BESIDE);
  const costs = shifts.map((shift) => [
    shift === 0 ? 0 : Infinity,
    ...run.map((k) => -departure(section, k, shift, half, sign)),
  ]);
  const course = cheapestCourse(costs, (from, to) => {
    const turn = Math.abs(shifts[from] - shifts[to]);
    return turn > MOST_TURN ? Infinity : STRAIGHTER * turn;
  });
  return course.slice(1).map((j) => shifts[j]);
}

/** How far a tear gapes to one side of a point of its course, in pixels: where it departs by a share of its depth. */
function gapeOf(section: Section, k: number, side: 1 | -1, sign: number, share: number): number {
  const ground = beside(section, k, side * GROUND.from, side * GROUND.to);
  if (ground.length === 0) return 0;
  const tone = medianOf(ground);
  const chance = BY_CHANCE * 1.48 * medianOf(ground.map((value) => Math.abs(value - tone)));
  const depth = Math.max(0, ...beside(section, k, -2, 2).map((value) => sign * (value - tone)));
  const least = Math.max(chance, share * depth);
  let end = 0;
  for (let t = 0; t <= WIDEST && t - end <= FIBRE; t += STEP)
    if (sign * (section.at(k, side * t) - tone) > least) end = t;
  return end;
}

/** A line with its half width at every point, within bounds, so that nothing of it is left between two of them. */
function widened(
  points: readonly Point[],
  gapes: readonly number[],
  { least, most }: { readonly least: number; readonly most: number },
): StrokeTarget {
  // What crosses it or lies beside it is not part of it.
  const halves = gapes.map((_, k) =>
    Math.max(least, medianOf(gapes.slice(Math.max(0, k - ALIKE), k + ALIKE + 1))),
  );
  // Between two points it may gape as wide as at the wider one.
  const wide = halves.map((half, k) =>
    Math.min(most, Math.max(half, halves[k - 1] ?? 0, halves[k + 1] ?? 0) + RIM),
  );
  const widest = Math.max(...wide);
  return { shape: 'stroke', points, width: 2 * widest, pressure: wide.map((half) => half / widest) };
}

/**
 * A tear or a crease as it is mended: carried on to the edge of the sheet where it was lost sight of just before, which
 * white paper around a picture makes likely. A tear follows what is seen of it there. Both are at every point as wide as they
 * gape. All other lines stay as they are.
 *
 * @param path in pixels of the picture
 * @param width full width as it was found, in pixels
 */
export function widenTear(
  path: readonly Point[],
  width: number,
  { kind, polarity }: { readonly kind?: FaultKind; readonly polarity?: Polarity },
  pixels: Pixels,
): StrokeTarget {
  const found: StrokeTarget = { shape: 'stroke', points: path, width };
  if (!goesThrough(kind, path)) return found;
  const { reads } = widestTear(path, width, kind, pixels.shape);
  if (isEmpty(reads)) return found;
  const sign = polarity === 'dark' ? -1 : 1;
  const { points, before, after } = carriedOn(path, pixels.shape);
  const straight = sectionOf(points, reads, pixels);
  const gapesOf = (section: Section, share: number): number[] =>
    points.map((_, k) => Math.max(gapeOf(section, k, 1, sign, share), gapeOf(section, k, -1, sign, share)));
  // What a crease lights beside it is nearly as bright as its crack: there is nothing to follow. A few places where the
  // crack is torn open do not make a wide line of it.
  if (kind === 'crease')
    return widened(points, gapesOf(straight, CRACK_SHARE), {
      least: width / 2,
      most: Math.max(THIN, width) / 2,
    });
  const half = Math.max(1, width / 2);
  const shifts = points.map(() => 0);
  const last = points.length - 1;
  const head = Array.from({ length: before }, (_, i) => before - 1 - i);
  const tail = Array.from({ length: after }, (_, i) => last - after + 1 + i);
  for (const run of [head, tail])
    shiftsAlong(straight, run, half, sign).forEach((shift, n) => (shifts[run[n]] = shift));
  const moved = moveSideways(points, shifts);
  return widened(moved, gapesOf(sectionOf(moved, reads, pixels), LEAST_SHARE), {
    least: width / 4,
    most: WIDEST + RIM,
  });
}
