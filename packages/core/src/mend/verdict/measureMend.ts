import type { FloatPlane } from '../../raster/float.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Raster } from '../../raster/raster.ts';

/** A mend on its rectangle, before and after. All on the same rectangle, row after row. */
export interface MendView {
  readonly before: Raster;
  readonly after: Raster;
  /** 0 to 1; the ring around is 0. */
  readonly coverage: Float32Array;
}

/** What can be measured on a mend without knowing the truth. */
export interface MendMeasure {
  /** Mean change inside, in encoded luma 0 to 1. */
  readonly change: number;
  /** Mean step across the border over the mean step of the ring itself, before and after; about 1 is unseen. */
  readonly seamBefore: number;
  readonly seam: number;
  /** Grain inside over grain of the ring; 1 is right. */
  readonly grain: number;
  /** How far the inside departs from the ring beside it, in spreads of the ring, before and after. */
  readonly departureBefore: number;
  readonly departure: number;
  /** Share of the edges that lead into the target from outside and were there inside, and are no longer, 0 to 1. */
  readonly structureLost: number;
  /** Share of the strong edges that lead into the target and do not go on inside, whatever was there before, 0 to 1. */
  readonly edgesUnmet: number;
}

/** Half a code of 255: keeps perfectly flat places from dividing by nothing. */
const LEAST = 0.5 / 255;

/** Visits neighbours to the right and below. */
function overPairs(width: number, size: number, visit: (i: number, j: number) => void): void {
  for (let i = 0; i < size; i++) {
    if ((i + 1) % width !== 0) visit(i, i + 1);
    if (i + width < size) visit(i, i + width);
  }
}

/** Mean step across the border of the mend over the mean step in the ring. */
function seamOf({ data, width }: FloatPlane, coverage: Float32Array): number {
  let [across, acrossCount, ring, ringCount] = [0, 0, 0, 0];
  overPairs(width, data.length, (i, j) => {
    const step = Math.abs(data[i] - data[j]);
    if (coverage[i] > 0 !== coverage[j] > 0) {
      across += step;
      acrossCount++;
    } else if (coverage[i] === 0) {
      ring += step;
      ringCount++;
    }
  });
  if (acrossCount === 0 || ringCount === 0) return 1;
  return (across / acrossCount + LEAST) / (ring / ringCount + LEAST);
}

/** Mean answer of the noise operator of Immerkaer 1996, inside over ring: structure of slopes and edges cancels in it. */
function grainOf({ data, width }: FloatPlane, coverage: Float32Array): number {
  const height = data.length / width;
  let [inside, insideCount, ring, ringCount] = [0, 0, 0, 0];
  for (let y = 1; y + 1 < height; y++) {
    for (let x = 1; x + 1 < width; x++) {
      const i = y * width + x;
      const corners = data[i - width - 1] + data[i - width + 1] + data[i + width - 1] + data[i + width + 1];
      const sides = data[i - 1] + data[i + 1] + data[i - width] + data[i + width];
      const noise = Math.abs(corners - 2 * sides + 4 * data[i]);
      if (coverage[i] === 1) {
        inside += noise;
        insideCount++;
      } else if (coverage[i] === 0) {
        ring += noise;
        ringCount++;
      }
    }
  }
  if (insideCount === 0 || ringCount === 0) return 1;
  return (inside / insideCount + LEAST) / (ring / ringCount + LEAST);
}

const SECTORS = 8;

/**
 * How far the inside departs from the outside beside it: the median over the sectors of the compass, so that a white
 * wall on one side is no departure; in spreads of the ring.
 */
function departureOf({ data, width }: FloatPlane, coverage: Float32Array): number {
  const height = data.length / width;
  let [cx, cy, total] = [0, 0, 0];
  coverage.forEach((amount, i) => {
    cx += amount * (i % width);
    cy += amount * Math.floor(i / width);
    total += amount;
  });
  if (total === 0) return 0;
  const [inside, outside, insideCount, outsideCount, squares] = Array.from(
    { length: 5 },
    () => new Float64Array(SECTORS),
  );
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      const i = y * width + x;
      const turn = Math.atan2(y - cy / total, x - cx / total) / (2 * Math.PI) + 0.5;
      const sector = Math.min(SECTORS - 1, Math.floor(turn * SECTORS));
      if (coverage[i] >= 0.5) {
        inside[sector] += data[i];
        insideCount[sector]++;
      } else if (coverage[i] === 0) {
        outside[sector] += data[i];
        squares[sector] += data[i] * data[i];
        outsideCount[sector]++;
      }
    }
  }
  const departures: number[] = [];
  for (let k = 0; k < SECTORS; k++) {
    if (insideCount[k] === 0 || outsideCount[k] < 3) continue;
    const mean = outside[k] / outsideCount[k];
    const spread = Math.sqrt(Math.max(0, squares[k] / outsideCount[k] - mean * mean)) + LEAST;
    departures.push(Math.abs(inside[k] / insideCount[k] - mean) / spread);
  }
  return departures.sort((m, n) => m - n)[departures.length >> 1] ?? 0;
}

/** How far into the target an edge is followed, in pixels: past the soft border, where the fade itself is a slope. */
const FOLLOWED = 5;
/** An edge is a slope so many times the ring's mean, and at least this steep, in luma a pixel. */
const EDGE = 2.5;
const LEAST_EDGE = 6 / 255;

interface Slopes {
  readonly x: Float32Array;
  readonly y: Float32Array;
  readonly size: Float32Array;
}

function slopesOf({ data, width }: FloatPlane): Slopes {
  const slopes = { x: new Float32Array(data.length), y: new Float32Array(data.length) };
  for (let i = width; i + width < data.length; i++) {
    const column = i % width;
    if (column === 0 || column === width - 1) continue;
    slopes.x[i] = (data[i + 1] - data[i - 1]) / 2;
    slopes.y[i] = (data[i + width] - data[i - width]) / 2;
  }
  return { ...slopes, size: slopes.x.map((dx, i) => Math.hypot(dx, slopes.y[i])) };
}

/** The steepest slope within a pixel of a place. */
function steepestNear(size: Float32Array, width: number, x: number, y: number): number {
  let most = 0;
  for (let dy = -1; dy <= 1; dy++)
    for (let dx = -1; dx <= 1; dx++) {
      const [px, py] = [Math.round(x) + dx, Math.round(y) + dy];
      if (px >= 0 && px < width && py >= 0 && py * width + px < size.length)
        most = Math.max(most, size[py * width + px]);
    }
  return most;
}

/** An edge that leads into the target: how steep it is outside, and at the same course inside before and after. */
interface LeadingEdge {
  readonly outside: number;
  readonly before: number;
  readonly after: number;
}

/** Follows the edges of the ring along their own direction into the target. */
function leadingEdges(before: FloatPlane, after: FloatPlane, coverage: Float32Array): LeadingEdge[] {
  const { width } = before;
  const [was, is] = [slopesOf(before), slopesOf(after)];
  const ring = Array.from(coverage.keys()).filter((i) => coverage[i] === 0);
  const usual = ring.reduce((sum, i) => sum + is.size[i], 0) / Math.max(1, ring.length);
  const least = Math.max(LEAST_EDGE, EDGE * usual);
  return ring.flatMap((i) => {
    if (is.size[i] < least) return [];
    // An edge runs at right angles to its slope.
    const [tx, ty] = [-is.y[i] / is.size[i], is.x[i] / is.size[i]];
    return [1, -1].flatMap((way): LeadingEdge[] => {
      const [x, y] = [(i % width) + way * FOLLOWED * tx, Math.floor(i / width) + way * FOLLOWED * ty];
      const [px, py] = [Math.round(x), Math.round(y)];
      if (px < 1 || px >= width - 1 || py < 1 || (py + 1) * width >= coverage.length) return [];
      if (coverage[py * width + px] < 1) return [];
      return [
        {
          outside: is.size[i],
          before: steepestNear(was.size, width, x, y),
          after: steepestNear(is.size, width, x, y),
        },
      ];
    });
  });
}

/** Fewer edges than this tell nothing. */
const LEAST_EDGES = 4;

const shareOf = <T>(list: readonly T[], holds: (one: T) => boolean): number =>
  list.length < LEAST_EDGES ? 0 : list.filter(holds).length / list.length;

/** Measures a mend against its surroundings and the picture before. Works on encoded luma. */
export function measureMend({ before, after, coverage }: MendView): MendMeasure {
  const [was, is] = [lumaPlane(before), lumaPlane(after)];
  let [change, weight] = [0, 0];
  coverage.forEach((amount, i) => {
    change += amount * Math.abs(is.data[i] - was.data[i]);
    weight += amount;
  });
  const edges = leadingEdges(was, is, coverage);
  const continued = edges.filter((edge) => edge.before >= 0.5 * edge.outside);
  return {
    change: weight > 0 ? change / weight : 0,
    seamBefore: seamOf(was, coverage),
    seam: seamOf(is, coverage),
    grain: grainOf(is, coverage),
    departureBefore: departureOf(was, coverage),
    departure: departureOf(is, coverage),
    structureLost: shareOf(continued, (edge) => edge.after < 0.35 * edge.before),
    edgesUnmet: shareOf(edges, (edge) => edge.after < 0.35 * edge.outside),
  };
}
