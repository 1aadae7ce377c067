import { blurHeld, blurReach } from '../../filter/gaussian.ts';
import { VALUE, floatsAt, holding, kernels } from '../../kernels/kernels.ts';
import type { SharpenStep } from './sharpenStep.ts';
import { encodeHeld, lightTablesOf, lookUpHeld } from '../../colour/lightTable.ts';
import type { HeldPlanes } from '../heldPlanes.ts';
import { addToAll, countOf, lumaHeld } from '../heldPlanes.ts';

/** Rounds of the deconvolution: later ones bring little but grain. */
const ROUNDS = 8;
/** Nothing is divided by less light than this. */
const LEAST_LIGHT = 1e-4;

/** How far a step looks around, in pixels. */
export const sharpenReach = ({ way, radius }: SharpenStep): number =>
  blurReach(radius) * (way === 'unsharp' ? 1 : 2 * ROUNDS);

/** A plane in held memory. */
interface Held {
  readonly place: number;
  readonly width: number;
  readonly height: number;
}

/**
 * Undoes a Gaussian blur, in place: Richardson 1972, Lucy 1974. The picture is what a sharp one became; each round
 * multiplies the estimate by what is missing in it.
 *
 * @param plane linear light
 */
function deconvolve(plane: Held, sigma: number): void {
  const { place, width, height } = plane;
  const count = width * height;
  holding([VALUE * count, VALUE * count], (seen, shown) => {
    const { share, multiply } = kernels();
    floatsAt(seen, count).set(floatsAt(place, count));
    for (let round = 0; round < ROUNDS; round++) {
      blurHeld(place, shown, width, height, sigma);
      share(seen, shown, shown, count, LEAST_LIGHT);
      blurHeld(shown, shown, width, height, sigma);
      multiply(place, shown, count);
    }
  });
}

/** Luma as sharp as it can be had. @param onto held; what is there is overwritten */
function sharpLuma({ way, radius }: SharpenStep, luma: Held, onto: number, held: HeldPlanes): void {
  const { place, width, height } = luma;
  const count = width * height;
  if (way === 'deconvolve') {
    // The middle channel stands for the curve of all: profiles with three different ones are rare, and luma is mostly green.
    const { transfer } = held.picture;
    const table = lightTablesOf(3, transfer)[transfer && transfer.length < 3 ? 0 : 1];
    floatsAt(onto, count).set(floatsAt(place, count));
    lookUpHeld(onto, count, table.light);
    deconvolve({ ...luma, place: onto }, radius);
    encodeHeld(onto, count, table);
    return;
  }
  blurHeld(place, onto, width, height, radius);
  kernels().mirror(place, onto, count);
}

/**
 * Sharpens luma and leaves the colour differences; in place. What the sharpening changes by less than the threshold
 * stays as it is, and more is lessened by it (soft threshold, Donoho 1995), so that grain is not sharpened.
 */
export function sharpen(step: SharpenStep, held: HeldPlanes): void {
  const count = countOf(held);
  holding([VALUE * count, VALUE * count], (luma, sharp) => {
    lumaHeld(held, luma);
    sharpLuma(step, { ...held.rect, place: luma }, sharp, held);
    kernels().standOut(luma, sharp, count, step.amount, step.threshold);
    addToAll(held, sharp);
  });
}
