import { blurReach, gaussianBlur } from '../filter/gaussian.ts';
import { kernels, layOut, takeFloats } from '../filter/kernels.ts';
import type { PictureShape } from '../raster/raster.ts';
import type { SharpenStep } from './finishStep.ts';
import { fromLight, lightTablesOf, toLight } from '../colour/lightTable.ts';
import { weightedLuma } from '../colour/luma.ts';
import { addToAll } from './addToAll.ts';

/** Rounds of the deconvolution: later ones bring little but grain. */
const ROUNDS = 8;
/** Nothing is divided by less light than this. */
const LEAST_LIGHT = 1e-4;

/** How far a step looks around, in pixels. */
export const sharpenReach = ({ way, radius }: SharpenStep): number =>
  blurReach(radius) * (way === 'unsharp' ? 1 : 2 * ROUNDS);

/**
 * Undoes a Gaussian blur: Richardson 1972, Lucy 1974. The picture is what a sharp one became; each round multiplies the
 * estimate by what is missing in it.
 *
 * @param seen linear light
 */
function deconvolved(seen: Float32Array, width: number, height: number, sigma: number): Float32Array {
  const { share, multiply } = kernels();
  const { length, byteLength } = seen;
  let estimate = seen;
  for (let round = 0; round < ROUNDS; round++) {
    const again = gaussianBlur({ width, height, data: estimate }, sigma).data;
    const [here, shown, ratio] = layOut([seen, again, byteLength]);
    share(here, shown, ratio, length, LEAST_LIGHT);
    const missing = gaussianBlur({ width, height, data: takeFloats(ratio, length) }, sigma).data;
    const [next, by] = layOut([estimate, missing]);
    multiply(next, by, length);
    estimate = takeFloats(next, length);
  }
  return estimate;
}

/** Luma as sharp as it can be had, encoded. */
function sharpLuma(
  { way, radius }: SharpenStep,
  luma: Float32Array,
  { width, height }: { readonly width: number; readonly height: number },
  transfer: PictureShape['transfer'],
): Float32Array {
  if (way === 'deconvolve') {
    // The middle channel stands for the curve of all: profiles with three different ones are rare, and luma is mostly green.
    const table = lightTablesOf(3, transfer)[transfer && transfer.length < 3 ? 0 : 1];
    return fromLight(deconvolved(toLight(luma, table), width, height, radius), table);
  }
  const soft = gaussianBlur({ width, height, data: luma }, radius).data;
  const sharp = new Float32Array(luma.length);
  for (let i = 0; i < sharp.length; i++) sharp[i] = 2 * luma[i] - soft[i];
  return sharp;
}

/**
 * Sharpens luma and leaves the colour differences. What the sharpening changes by less than the threshold stays as it
 * is, and more is lessened by it (soft threshold, Donoho 1995), so that grain is not sharpened.
 *
 * @param planes encoded values, 0 to 1
 */
export function sharpened(
  step: SharpenStep,
  planes: readonly Float32Array[],
  size: { readonly width: number; readonly height: number },
  transfer: PictureShape['transfer'],
): Float32Array[] {
  const luma = weightedLuma(planes);
  const sharp = sharpLuma(step, luma, size, transfer);
  const change = new Float32Array(luma.length);
  for (let i = 0; i < change.length; i++) {
    const gained = sharp[i] - luma[i];
    change[i] = step.amount * Math.sign(gained) * Math.max(0, Math.abs(gained) - step.threshold);
  }
  return addToAll(planes, change);
}
