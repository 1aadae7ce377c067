import type { FloatPlane } from '../raster/float.ts';
import { fourier } from './fourier.ts';

/** Sides of the part that is compared: the largest power of two that fits, up to this. */
const MOST_SIDE = 512;
const LEAST_SIDE = 32;

/** How far one picture lies from another, and how sure that is. */
export interface PhaseShift {
  /** Pixels to the right and down by which the second is moved. */
  readonly dx: number;
  readonly dy: number;
  /** Height of the peak over that of a perfect match, 0 to 1: little where the two have little in common. */
  readonly peak: number;
}

const powerBelow = (side: number): number => 2 ** Math.floor(Math.log2(side));

/** The middle of a plane under a window that falls to nothing at its sides, so that they do not count as edges. */
function windowed({ width, height, data }: FloatPlane, side: number): Float64Array {
  const [left, top] = [(width - side) >> 1, (height - side) >> 1];
  const out = new Float64Array(side * side);
  let mean = 0;
  for (let y = 0; y < side; y++)
    for (let x = 0; x < side; x++) mean += data[(top + y) * width + left + x] / (side * side);
  const hann = Float64Array.from(
    { length: side },
    (_, i) => 0.5 - 0.5 * Math.cos((2 * Math.PI * (i + 0.5)) / side),
  );
  for (let y = 0, i = 0; y < side; y++)
    for (let x = 0; x < side; x++, i++)
      out[i] = hann[x] * hann[y] * (data[(top + y) * width + left + x] - mean);
  return out;
}

/** Where a parabola through three values has its top, from the middle one. */
function topOf(before: number, at: number, after: number): number {
  const bend = before - 2 * at + after;
  return bend < 0 ? Math.min(0.5, Math.max(-0.5, (before - after) / (2 * bend))) : 0;
}

/**
 * By how much a picture is moved against another, from the phases of their spectra (phase correlation, Kuglin and Hines
 * 1975), to about a tenth of a pixel.
 *
 * @param a,b luma of two pictures of the same sides, each at least 32 pixels
 * @returns null where there is too little to compare
 */
export function phaseShift(a: FloatPlane, b: FloatPlane): PhaseShift | null {
  const side = Math.min(MOST_SIDE, powerBelow(Math.min(a.width, a.height)));
  if (side < LEAST_SIDE) return null;
  const [first, second] = [a, b].map((plane) => ({
    real: windowed(plane, side),
    imaginary: new Float64Array(side * side),
  }));
  for (const { real, imaginary } of [first, second]) fourier(real, imaginary, side, 'forward');
  const real = new Float64Array(side * side);
  const imaginary = new Float64Array(side * side);
  for (let i = 0; i < real.length; i++) {
    const re = second.real[i] * first.real[i] + second.imaginary[i] * first.imaginary[i];
    const im = second.imaginary[i] * first.real[i] - second.real[i] * first.imaginary[i];
    const length = Math.hypot(re, im);
    if (length < 1e-12) continue;
    real[i] = re / length;
    imaginary[i] = im / length;
  }
  fourier(real, imaginary, side, 'back');
  let best = 0;
  for (let i = 1; i < real.length; i++) if (real[i] > real[best]) best = i;
  const at = (x: number, y: number): number => real[((y + side) % side) * side + ((x + side) % side)];
  const [x, y] = [best % side, Math.floor(best / side)];
  const signed = (place: number): number => (place > side / 2 ? place - side : place);
  return {
    dx: signed(x) + topOf(at(x - 1, y), at(x, y), at(x + 1, y)),
    dy: signed(y) + topOf(at(x, y - 1), at(x, y), at(x, y + 1)),
    peak: Math.max(0, real[best]),
  };
}
