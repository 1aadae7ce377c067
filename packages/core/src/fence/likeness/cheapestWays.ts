import { VALUE, floatsAt, kernels, layOut, takeFloats } from '../../kernels/kernels.ts';
import type { LikenessPlanes } from './likenessPlanes.ts';

/** What a touched place looks like. */
export interface Look {
  readonly means: readonly number[];
  /** One over the deviation of each feature. */
  readonly sharpness: readonly number[];
}

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
/** Longer than any way. */
const NO_WAY = 1e9;

/**
 * Length of the cheapest way from the seeds to each pixel, through what is like the nearest of these looks and across
 * edges, by raster sweeps. (Toivanen 1996; Criminisi, Sharp, Blake 2008.)
 *
 * @param seeds pixels, as indices
 */
export function cheapestWays(
  { width, height, features, steepness }: LikenessPlanes,
  looks: readonly Look[],
  seeds: readonly number[],
): Float32Array {
  const count = width * height;
  const numbers = looks.flatMap(({ means, sharpness }) => means.flatMap((mean, f) => [mean, sharpness[f]]));
  const by = [ALIKE, UNLIKE_COST, FLAT, EDGE_COST, WAY_COST];
  // Planes lie behind one another without the gaps that would align them.
  const [ofLooks, ofCosts, ofSteepness, cost, ways, ofFeatures] = layOut([
    Float32Array.from(numbers),
    Float32Array.from(by),
    steepness,
    VALUE * count,
    VALUE * count,
    VALUE * count * features.length,
  ]);
  features.forEach((plane, f) => floatsAt(ofFeatures + VALUE * count * f, count).set(plane));
  const { enterCosts, sweepWays } = kernels();
  enterCosts(ofFeatures, features.length, ofSteepness, cost, count, ofLooks, looks.length, ofCosts);
  const lengths = floatsAt(ways, count).fill(NO_WAY);
  for (const seed of seeds) lengths[seed] = 0;
  sweepWays(ways, cost, width, height, SWEEPS);
  return takeFloats(ways, count);
}
