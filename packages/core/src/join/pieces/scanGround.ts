import { boxMean } from '../../filter/boxMean.ts';
import { medianOf } from '../../measure/medianOf.ts';
import type { FloatPlane } from '../../raster/float.ts';

/** Fine detail is held against the mean of so many pixels on each side. */
const AROUND = 2;
/** The band along the border of the scan that the ground is read from, as a share of its shorter side. */
const BAND = 0.02;
/** Fine detail below this, in encoded values, can be ground however little noise the scan has. */
const LEAST_DETAIL = 0.012;
/** So many standard deviations of the noise are detail. */
const SURE = 3.5;
/** How far a colour may lie from a shade of the ground, in encoded values. */
const STRAY = 0.03;
/** The darkest shadow and the lightest place of a ground, as shares of it. */
const SHADES = { darkest: 0.3, lightest: 1.05 };
/** Below this a ground is black: its shadows cannot be seen, and shares of it mean nothing. */
const BLACK = 0.15;

/** Fine detail of each channel: what departs from the mean of the square around. */
function detailOf(plane: FloatPlane, mean: FloatPlane): Float32Array {
  return plane.data.map((value, i) => Math.abs(value - mean.data[i]));
}

/** Where the ground of a scan, the scanner's lid, can lie. */
export interface GroundLikeness {
  /** 1 where a pixel can be ground, plain or in shadow: even, and of a shade of its colour. */
  readonly isLike: Uint8Array;
  /** How far the colour of each pixel lies from the ground's, in encoded values of 0 to 1. */
  readonly away: Float32Array;
}

/** Indices of the pixels in a band along the border. */
function bandOf(width: number, height: number): number[] {
  const deep = Math.max(2, Math.round(BAND * Math.min(width, height)));
  const band: number[] = [];
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      if (x < deep || y < deep || x >= width - deep || y >= height - deep) band.push(y * width + x);
  return band;
}

/** How far each pixel's colour lies from another, in the channel where it does most. */
function distanceFrom(channels: readonly FloatPlane[], colour: readonly number[]): Float32Array {
  return channels[0].data.map((_, i) =>
    channels.reduce((most, { data }, c) => Math.max(most, Math.abs(data[i] - colour[c])), 0),
  );
}

/**
 * Measures the ground of a scan along its border, and says where it can lie. Shadows of the pieces on it are darker and even;
 * paper is not: its border is sharp, and its fibres are rough.
 *
 * @param channels encoded values of 0 to 1, one plane for each colour channel
 */
export function measureGround(channels: readonly FloatPlane[]): GroundLikeness {
  const [{ width, height }] = channels;
  const means = channels.map((plane) => boxMean(plane, AROUND));
  const details = channels.map((plane, c) => detailOf(plane, means[c]));
  const band = bandOf(width, height);
  const colour = means.map(({ data }) => medianOf(band.map((i) => data[i])));
  const noise = Math.max(...details.map((detail) => medianOf(band.map((i) => detail[i])) / 0.6745));
  const mostDetail = Math.max(LEAST_DETAIL, SURE * noise);
  const stray = Math.max(STRAY, SURE * noise);
  const isBlack = colour.every((value) => value < BLACK);
  const weight = colour.reduce((sum, value) => sum + value * value, 0);
  const isLike = new Uint8Array(width * height);
  for (let i = 0; i < isLike.length; i++) {
    let shade = 1;
    if (!isBlack) {
      shade = 0;
      for (let c = 0; c < colour.length; c++) shade += (means[c].data[i] * colour[c]) / weight;
      if (shade < SHADES.darkest || shade > SHADES.lightest) continue;
    }
    let isGround = true;
    for (let c = 0; c < colour.length && isGround; c++)
      isGround = details[c][i] < mostDetail && Math.abs(means[c].data[i] - shade * colour[c]) < stray;
    if (isGround) isLike[i] = 1;
  }
  return { isLike, away: distanceFrom(means, colour) };
}
