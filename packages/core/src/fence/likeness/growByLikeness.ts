import { boxMean } from '../../filter/boxMean.ts';
import type { LikenessPlanes } from './likenessPlanes.ts';

/** A touch or a stroke that says: this belongs to it, or this does not. */
export interface Touch {
  readonly takes: 'in' | 'out';
  /** The pixels of the level that were touched, as indices. */
  readonly pixels: readonly number[];
}

/** What a touched place looks like: means and inverse deviations of its features. */
interface Look {
  readonly means: readonly number[];
  readonly sharpness: readonly number[];
}

/** Deviations are not taken for smaller than this: lightness, a, b, logarithm of roughness. */
const LEAST_SPREAD = [2.5, 2, 2, 0.45];
/** Likeness within so many deviations costs nothing. */
const ALIKE = 2;
/** What unlikeness costs beyond that, squared, for each pixel of the way. */
const UNLIKE_COST = 0.015;
/** Steepness that no edge of the subject has, in L*a*b* a pixel: less costs nothing. */
const FLAT = 1;
const EDGE_COST = 1.4;
/** The way itself costs a little, so that what is near comes first. */
const WAY_COST = 0.004;
/** Passes of the sweep, each in four directions: enough for a way that winds twice. */
const SWEEPS = 3;

function lookOf(features: readonly Float32Array[], pixels: readonly number[]): Look {
  const means = features.map((plane) => pixels.reduce((sum, i) => sum + plane[i], 0) / pixels.length);
  const sharpness = features.map((plane, f) => {
    const spread = Math.sqrt(pixels.reduce((sum, i) => sum + (plane[i] - means[f]) ** 2, 0) / pixels.length);
    return 1 / Math.max(LEAST_SPREAD[f], spread);
  });
  return { means, sharpness };
}

/** What it costs to enter each pixel on a way from places of these looks. */
function costs({ features, steepness }: LikenessPlanes, looks: readonly Look[]): Float32Array {
  const cost = new Float32Array(steepness.length);
  for (let i = 0; i < cost.length; i++) {
    let nearest = Infinity;
    for (const { means, sharpness } of looks) {
      let sum = 0;
      for (let f = 0; f < means.length; f++) sum += ((features[f][i] - means[f]) * sharpness[f]) ** 2;
      if (sum < nearest) nearest = sum;
    }
    const unlike = Math.max(0, Math.sqrt(nearest) - ALIKE);
    const edge = Math.max(0, steepness[i] - FLAT);
    cost[i] = WAY_COST + UNLIKE_COST * unlike * unlike + EDGE_COST * edge;
  }
  return cost;
}

/** Length of the cheapest way from the seeds to each pixel, by raster sweeps. (Toivanen 1996; Criminisi et al. 2008.) */
function cheapestWays(cost: Float32Array, width: number, seeds: readonly number[]): Float32Array {
  const height = cost.length / width;
  const ways = new Float32Array(cost.length).fill(1e9);
  for (const seed of seeds) ways[seed] = 0;
  for (let sweep = 0; sweep < SWEEPS; sweep++) {
    for (let y = 0; y < height; y++) sweepRow(ways, cost, y, width, y > 0 ? -width : 0);
    for (let y = height - 1; y >= 0; y--) sweepRow(ways, cost, y, width, y < height - 1 ? width : 0);
  }
  return ways;
}

/** Brings the ways of one row up to date from the row beside it, and along the row both ways. */
function sweepRow(ways: Float32Array, cost: Float32Array, y: number, width: number, beside: number): void {
  const start = y * width;
  const end = start + width;
  for (let i = start; i < end; i++) {
    let best = ways[i];
    if (beside !== 0) {
      best = Math.min(best, ways[i + beside] + cost[i]);
      if (i > start) best = Math.min(best, ways[i + beside - 1] + Math.SQRT2 * cost[i]);
      if (i < end - 1) best = Math.min(best, ways[i + beside + 1] + Math.SQRT2 * cost[i]);
    }
    if (i > start) best = Math.min(best, ways[i - 1] + cost[i]);
    ways[i] = best;
  }
  for (let i = end - 2; i >= start; i--) ways[i] = Math.min(ways[i], ways[i + 1] + cost[i]);
}

/**
 * Grows an area from touches to all that is like them and hangs together with them: the cheapest way to a pixel,
 * through likeness of colour and roughness and across edges, must be shorter than the reach, and shorter than the way
 * from any touch that takes away. (Geodesic segmentation: Bai and Sapiro 2007; Criminisi, Sharp, Blake 2008.)
 *
 * @param touches at least one that takes in
 * @param reach how far likeness goes, above 0; 1 is usual
 * @returns 1 for every pixel of the level that belongs to it
 */
export function growByLikeness(planes: LikenessPlanes, touches: readonly Touch[], reach: number): Uint8Array {
  const { width, features } = planes;
  const waysFrom = (takes: Touch['takes']): Float32Array | null => {
    const own = touches.filter((touch) => touch.takes === takes && touch.pixels.length > 0);
    if (own.length === 0) return null;
    const looks = own.map(({ pixels }) => lookOf(features, pixels));
    return cheapestWays(
      costs(planes, looks),
      width,
      own.flatMap(({ pixels }) => pixels),
    );
  };
  const into = waysFrom('in');
  const inside = new Uint8Array(planes.steepness.length);
  if (!into) return inside;
  const away = waysFrom('out');
  const most = USUAL_REACH * reach;
  for (let i = 0; i < inside.length; i++) inside[i] = into[i] < most && (!away || into[i] < away[i]) ? 1 : 0;
  return withoutFrays(inside, width);
}

/** The longest way at a reach of 1: across a soft edge, or through a stretch that is a little unlike. */
const USUAL_REACH = 8;

/** A border is no more ragged than this many pixels. */
const FRAYS = 2;

/** A pixel is what most of the square around it is: single pixels that grain let in or out are none of the subject's. */
function withoutFrays(inside: Uint8Array, width: number): Uint8Array {
  const plane = { width, height: inside.length / width, data: Float32Array.from(inside) };
  return Uint8Array.from(boxMean(plane, FRAYS).data, (share) => (share > 0.5 ? 1 : 0));
}
