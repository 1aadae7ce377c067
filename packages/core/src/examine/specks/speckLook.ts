import { upperMedian } from '../../measure/upperMedian.ts';
import { LOOK_CHANNELS, LOOK_SIDE } from '../classify/netLayers.ts';
import type { Fault } from '../fault.ts';

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

const RING_PLACES = new Int32Array(LOOK_SIDE * LOOK_SIDE)
  .map((_, i) => i)
  .filter((i) => {
    const [x, y] = [(i % LOOK_SIDE) + 0.5, Math.floor(i / LOOK_SIDE) + 0.5];
    const away = Math.hypot(x - LOOK_SIDE / 2, y - LOOK_SIDE / 2) / (LOOK_SIDE / 2);
    return away > RING.from && away < RING.to;
  });

/** Bounded, so that nothing is farther off than what was trained on. */
const bounded = (value: number): number => (2 * value) / (1 + Math.abs(value));

/** How far each sample departs from the median of the ring. */
function departures(values: Float32Array): Float32Array {
  const around = new Float32Array(RING_PLACES.length);
  for (let k = 0; k < around.length; k++) around[k] = values[RING_PLACES[k]];
  const usual = upperMedian(around);
  const out = new Float32Array(values.length);
  for (let i = 0; i < out.length; i++) out[i] = values[i] - usual;
  return out;
}

function logarithms(light: Float32Array): Float32Array {
  const out = new Float32Array(light.length);
  for (let i = 0; i < out.length; i++) out[i] = Math.log(light[i] + DARKEST);
  return out;
}

function meanOf(planes: readonly Float32Array[]): Float32Array {
  const out = new Float32Array(planes[0].length);
  for (const plane of planes) for (let i = 0; i < out.length; i++) out[i] += plane[i] / planes.length;
  return out;
}

/** What a net is shown of a speck. */
export interface SpeckLook {
  /** `LOOK_CHANNELS` values for each place. */
  readonly look: Float32Array;
  /** What is told beside: the radius in pixels, as a power of two, and the polarity. */
  readonly told: readonly number[];
}

/**
 * What a net is shown of a speck, from the light around it: how far each place departs from its surroundings in logarithms
 * of light (a shadow takes the same there wherever it lies), the same against how far those vary, and how far the colours
 * depart from one another: which colour a particle or a picture has tells nothing.
 *
 * @param light linear, 0 to 1, one array for each colour channel; see `speckLight`
 */
export function speckLook(
  light: readonly Float32Array[],
  { r, polarity }: Pick<Fault, 'r' | 'polarity'>,
): SpeckLook {
  const sign = polarity === 'dark' ? 1 : -1;
  const logs = light.map(logarithms);
  const colours = logs.map(departures);
  const grey = departures(meanOf(logs));
  let square = 0;
  for (const i of RING_PLACES) square += grey[i] * grey[i];
  const usual = Math.sqrt(square / RING_PLACES.length) + EVEN;
  const look = new Float32Array(LOOK_CHANNELS * grey.length);
  const spread = spreadOf(colours);
  for (let i = 0, at = 0; i < grey.length; i++) {
    const departure = sign * grey[i];
    look[at++] = bounded(DEPARTURE * departure);
    look[at++] = bounded(departure / usual);
    look[at++] = bounded(COLOUR * spread[i]);
  }
  return { look, told: [Math.log2(r) - USUAL_SIZE, sign] };
}

/** The standard deviation of the colours at each place; 0 of a single one. */
function spreadOf(colours: readonly Float32Array[]): Float64Array {
  const count = colours.length;
  const out = new Float64Array(colours[0].length);
  if (count < 2) return out;
  const sums = new Float64Array(out.length);
  for (const plane of colours)
    for (let i = 0; i < out.length; i++) {
      sums[i] += plane[i];
      out[i] += plane[i] * plane[i];
    }
  for (let i = 0; i < out.length; i++)
    out[i] = Math.sqrt(Math.max(0, out[i] - (sums[i] * sums[i]) / count) / (count - 1));
  return out;
}
