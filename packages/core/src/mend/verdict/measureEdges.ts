import { columnOf } from '../../measure/columnOf.ts';
import { gaussianBlur } from '../../filter/gaussian.ts';
import { medianOf } from '../../measure/medianOf.ts';
import type { FloatPlane } from '../../raster/float.ts';
import { distanceToSet } from '../../target/distanceTransform.ts';
import type { MendView } from './measureRing.ts';

/**
 * What becomes of the edges that lead into a mend: how many stop there, each weighed by how many times it stands out
 * from the ring and by how much of it is gone. 0 where all go on, and where there are none.
 */
export interface EdgesMeasure {
  /** Those that went on inside before. */
  readonly structureLost: number;
  /** All of them, whatever was there before. */
  readonly edgesUnmet: number;
}

/** Wide enough that an edge between two dark tones stands out from the grain, in pixels. */
const SIGMA = 1.5;
/** Edges are looked for so far around the target, must be seen so far back, and are followed so far into it. */
const [RING, BACK, INTO] = [8, 12, 8];
/** All three shrink with a target whose inmost pixel lies nearer to its border than this. */
const ROOMY = 9;
/** A place along an edge may lie so far beside its tangent: edges bend. */
const ASTRAY = 3;
/** An edge is a slope so many times the ring's median. */
const EDGE = 5;
/** And at least that of a step of so much of full scale. */
const LEAST_STEP = 3 / 255;
/** The slope of a step of 1 under the blur. */
const SLOPE_OF_STEP = 1 / (SIGMA * Math.sqrt(2 * Math.PI));
/** How far an edge stands out is measured against at least this slope: no ring is calmer to the eye. */
const CALM = LEAST_STEP / 8;
/** An edge is seen where at least this share of its slope is found, the same way up. */
const SEEN = 0.5;
/** And fades where less than this is found. */
const STOPS = 0.6;
/** Fewer places along edges than this tell nothing. */
const LEAST_EDGES = 4;

const shrunkFor = (inmost: number): number => Math.min(1, inmost / ROOMY);

/** How far around a mend its edges are looked at, in pixels. */
export const edgesReach = (inmost: number): number =>
  Math.ceil((RING + BACK) * shrunkFor(inmost)) + ASTRAY + Math.ceil(3.5 * SIGMA);

/** How much the next pixel to the right is lighter than that to the left, a pixel; 0 at the rectangle's border. */
function across({ data, width }: FloatPlane, i: number): number {
  const column = i % width;
  return column === 0 || column === width - 1 ? 0 : (data[i + 1] - data[i - 1]) / 2;
}

/** The same for the next pixel below and that above. */
const down = ({ data, width }: FloatPlane, i: number): number =>
  i < width || i + width >= data.length ? 0 : (data[i + width] - data[i - width]) / 2;

function slopeAt(plane: FloatPlane, i: number): number {
  const [x, y] = [across(plane, i), down(plane, i)];
  return Math.sqrt(x * x + y * y);
}

/** A place on an edge, the unit vector across it towards its lighter side, and its slope. */
interface EdgePoint {
  readonly x: number;
  readonly y: number;
  readonly nx: number;
  readonly ny: number;
  readonly slope: number;
}

/** Where the pixels with these numbers are edges: steeper than their neighbours to both sides, and than `least`. */
const edgePoints = (plane: FloatPlane, ring: readonly number[], slopes: Float32Array, least: number) =>
  ring.flatMap((i, k): EdgePoint[] => {
    const slope = slopes[k];
    if (slope < least) return [];
    const [nx, ny] = [across(plane, i) / slope, down(plane, i) / slope];
    const aside = Math.round(ny) * plane.width + Math.round(nx);
    const isCrest = slopeAt(plane, i + aside) <= slope && slopeAt(plane, i - aside) <= slope;
    return isCrest ? [{ x: i % plane.width, y: Math.floor(i / plane.width), nx, ny, slope }] : [];
  });

const STEPS_ASIDE = Array.from({ length: (2 * ASTRAY + 1) ** 2 }, (_, k) => ({
  dx: (k % (2 * ASTRAY + 1)) - ASTRAY,
  dy: Math.floor(k / (2 * ASTRAY + 1)) - ASTRAY,
})).filter(({ dx, dy }) => Math.hypot(dx, dy) <= ASTRAY);

/** An edge that leads into the target: its slope outside, and what of it is found inside, before and after. */
interface LeadingEdge {
  readonly outside: number;
  readonly before: number;
  readonly after: number;
}

/**
 * Follows edges along their own direction, back and into the target. Only what is an edge further back too leads in: a
 * spot, a leaf or a grain at the border has nothing that could go on.
 */
function followed(
  points: readonly EdgePoint[],
  { before, after, coverage }: MendView,
  inmost: number,
): LeadingEdge[] {
  const { width } = after;
  const height = coverage.length / width;
  const pixelAt = (x: number, y: number): number => {
    const [column, row] = [Math.round(x), Math.round(y)];
    return column >= 0 && row >= 0 && column < width && row < height ? row * width + column : -1;
  };
  /** What is found of an edge near a place, on its own side of the border. */
  const found = (
    plane: FloatPlane,
    { nx, ny }: EdgePoint,
    x: number,
    y: number,
    isInside: boolean,
  ): number => {
    let most = 0;
    for (const { dx, dy } of STEPS_ASIDE) {
      const i = pixelAt(x + dx, y + dy);
      if (i >= 0 && coverage[i] > 0 === isInside)
        most = Math.max(most, across(plane, i) * nx + down(plane, i) * ny);
    }
    return most;
  };
  const shrunk = shrunkFor(inmost);
  const ring = Math.ceil(RING * shrunk);
  return points.flatMap((point) =>
    [1, -1].flatMap((way): LeadingEdge[] => {
      const { x, y, nx, ny, slope } = point;
      // An edge runs at right angles to its slope.
      const alongX = (steps: number): number => x - way * steps * ny;
      const alongY = (steps: number): number => y + way * steps * nx;
      let border = 1;
      while (border <= ring + 1 && !(coverage[pixelAt(alongX(border), alongY(border))] >= 1)) border++;
      const inside = border + INTO * shrunk;
      if (border > ring + 1 || !(coverage[pixelAt(alongX(inside), alongY(inside))] >= 1)) return [];
      const leadsIn = [-BACK / 2, -BACK].every(
        (back) => found(after, point, alongX(back * shrunk), alongY(back * shrunk), false) >= SEEN * slope,
      );
      const inThere = (plane: FloatPlane): number =>
        found(plane, point, alongX(inside), alongY(inside), true);
      return leadsIn ? [{ outside: slope, before: inThere(before), after: inThere(after) }] : [];
    }),
  );
}

/** Numbers of the pixels around a mend, up to so far from it. */
function ringAround(coverage: Float32Array, width: number, far: number): number[] {
  const covered = new Uint8Array(coverage.length);
  for (let i = 0; i < covered.length; i++) covered[i] = coverage[i] > 0 ? 1 : 0;
  const away = distanceToSet(covered, width, covered.length / width);
  const ring: number[] = [];
  for (let i = 0; i < away.length; i++) if (away[i] > 0 && away[i] <= far) ring.push(i);
  return ring;
}

/**
 * Measures what becomes of the edges around a mend. Needs {@link edgesReach} pixels around it where there are any.
 *
 * @param inmost how far from its border the inmost pixel of the mend lies, in pixels
 */
export function measureEdges({ before, after, coverage }: MendView, inmost: number): EdgesMeasure {
  const blurred = gaussianBlur(after, SIGMA);
  const ring = RING * shrunkFor(inmost);
  const around = ringAround(coverage, after.width, ring);
  const slopes = columnOf(Float32Array, around, (i) => slopeAt(blurred, i));
  const usual = medianOf(slopes);
  const points = edgePoints(blurred, around, slopes, Math.max(LEAST_STEP * SLOPE_OF_STEP, EDGE * usual));
  if (points.length === 0) return { structureLost: 0, edgesUnmet: 0 };
  const edges = followed(points, { before: gaussianBlur(before, SIGMA), after: blurred, coverage }, inmost);
  const stopping = edges.filter(({ outside, after }) => after < STOPS * outside);
  // An edge is met once at every pixel of the ring's depth.
  const weigh = (stopped: readonly LeadingEdge[]): number =>
    stopped.length < LEAST_EDGES
      ? 0
      : stopped.reduce(
          (sum, { outside, after }) => sum + (outside / (usual + CALM)) * (1 - after / (STOPS * outside)),
          0,
        ) / ring;
  return {
    structureLost: weigh(stopping.filter(({ outside, before }) => before >= SEEN * outside)),
    edgesUnmet: weigh(stopping),
  };
}
