import { boxMean } from '../../filter/boxMean.ts';
import type { Look } from './cheapestWays.ts';
import { cheapestWays } from './cheapestWays.ts';
import type { LikenessPlanes } from './likenessPlanes.ts';

/** A touch or a stroke that says: this belongs to it, or this does not. */
export interface Touch {
  readonly takes: 'in' | 'out';
  /** The pixels of the level that were touched, as indices. */
  readonly pixels: readonly number[];
}

/** Deviations are not taken for smaller than this: lightness, a, b, logarithm of roughness. */
const LEAST_SPREAD = [2.5, 2, 2, 0.45];
function lookOf(features: readonly Float32Array[], pixels: readonly number[]): Look {
  const means = features.map((plane) => pixels.reduce((sum, i) => sum + plane[i], 0) / pixels.length);
  const sharpness = features.map((plane, f) => {
    const spread = Math.sqrt(pixels.reduce((sum, i) => sum + (plane[i] - means[f]) ** 2, 0) / pixels.length);
    return 1 / Math.max(LEAST_SPREAD[f], spread);
  });
  return { means, sharpness };
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
      planes,
      looks,
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
  const plane = { width, height: inside.length / width, data: new Float32Array(inside) };
  const shares = boxMean(plane, FRAYS).data;
  for (let i = 0; i < inside.length; i++) inside[i] = shares[i] > 0.5 ? 1 : 0;
  return inside;
}
