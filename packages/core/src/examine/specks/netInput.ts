import { VALUE, floatsAt, kernels, layOut, takeFloats } from '../../kernels/kernels.ts';
import { upperMedian } from '../../measure/upperMedian.ts';
import { LOOK_CHANNELS, LOOK_SIDE } from '../classify/netLayers.ts';
import type { Fault } from '../../fault/fault.ts';

/** Light below this is as good as none. */
const DARKEST = 0.01;
/** Ring of the surroundings, in shares of half the side: from one and a half to two and a half radii and more. */
const RING = { from: 0.5, to: 0.865 };
/** A ground that varies less than this, in logarithms of light, is even. */
const EVEN = 0.03;
/** How strongly departures and their differences between colours count. */
const DEPARTURE = 3;
const COLOUR = 6;
/** A radius of four pixels, as a power of two. */
const USUAL_SIZE = 2;

const PLACES = LOOK_SIDE * LOOK_SIDE;
const RING_PLACES = new Int32Array(PLACES)
  .map((_, i) => i)
  .filter((i) => {
    const [x, y] = [(i % LOOK_SIDE) + 0.5, Math.floor(i / LOOK_SIDE) + 0.5];
    const away = Math.hypot(x - LOOK_SIDE / 2, y - LOOK_SIDE / 2) / (LOOK_SIDE / 2);
    return away > RING.from && away < RING.to;
  });

/** The values of a plane that lie in the ring. */
function ringOf(values: Float32Array): Float32Array {
  const around = new Float32Array(RING_PLACES.length);
  for (let k = 0; k < around.length; k++) around[k] = values[RING_PLACES[k]];
  return around;
}

/** How far values depart from one of them, as the root of the mean square. */
function spreadAbout(usual: number, values: Float32Array): number {
  let square = 0;
  for (const value of values) square += (value - usual) ** 2;
  return Math.sqrt(square / values.length);
}

/** The input of the net for one speck. */
export interface NetInput {
  /** `LOOK_CHANNELS` values for each place. */
  readonly values: Float32Array;
  /** Beside them: the radius in pixels, as a power of two, and the polarity. */
  readonly features: readonly number[];
}

/**
 * Returns the input of the net for a speck, from the light around it: how far each place departs from its surroundings in logarithms
 * of light (a shadow takes the same there wherever it lies), the same against how far those vary, and how far the colours
 * depart from one another: which colour a particle or a picture has tells nothing.
 *
 * @param light linear, 0 to 1, one array for each colour channel; see `speckLight`
 */
export function netInput(
  light: readonly Float32Array[],
  { r, polarity }: Pick<Fault, 'r' | 'polarity'>,
): NetInput {
  const sign = polarity === 'dark' ? 1 : -1;
  const { logarithms, meanOfPlanes, layLook } = kernels();
  const channels = light.length;
  const [first, grey, usual, by, onto] = layOut([
    ...[VALUE * channels * PLACES, VALUE * PLACES, VALUE * channels, VALUE * LOOK_CHANNELS + VALUE],
    VALUE * LOOK_CHANNELS * PLACES,
  ]);
  const planeAt = (c: number): Float32Array => floatsAt(first + VALUE * c * PLACES, PLACES);
  light.forEach((plane, c) => planeAt(c).set(plane));
  logarithms(first, channels * PLACES, DARKEST);
  meanOfPlanes(first, channels, PLACES, grey);
  floatsAt(usual, channels).set(light.map((_, c) => upperMedian(ringOf(planeAt(c)))));
  const around = ringOf(floatsAt(grey, PLACES));
  const usualGrey = upperMedian(around);
  const varies = spreadAbout(usualGrey, around) + EVEN;
  floatsAt(by, 1 + LOOK_CHANNELS).set([usualGrey, sign * DEPARTURE, sign / varies, COLOUR]);
  layLook(first, channels, PLACES, usual, grey, by, onto);
  return { values: takeFloats(onto, LOOK_CHANNELS * PLACES), features: [Math.log2(r) - USUAL_SIZE, sign] };
}
