import { PATCH } from './completionLevel.ts';
import type { CompletionLevel } from './completionLevel.ts';
import type { PatchCost } from './patchCost.ts';
import type { PatchField } from './patchField.ts';

/**
 * How the patches that overlap a pixel agree on its colour: by their weighted mean, or, sharp, by the one that counts
 * most. Means turn texture to fog, so they serve for the start only.
 */
export type Voting = 'weighted' | 'sharp';

/** What a patch counts falls by so many powers of e when it fits as well as those around it on average; by trial. */
const SHARPNESS = 5;
/** And by so many for each pixel that it lies deeper in the loss: what lies near the known is predicted by it. */
const FARNESS = 0.05;
const FARTHEST = 40;
/** Below this a cost is rounding. */
const LEAST_COST = 0.5;

const SIDE = 2 * PATCH + 1;

/** From a pixel to the centres of the patches that hold it. */
const stepsToCentres = (width: number): Int32Array =>
  Int32Array.from(
    { length: SIDE ** 2 },
    (_, k) => (Math.floor(k / SIDE) - PATCH) * width + (k % SIDE) - PATCH,
  );

/** By how many powers of e the patches over a pixel count less than a perfect one; infinite where there is none. */
function penalise(
  { depth }: CompletionLevel,
  { from, cost }: PatchField,
  pixel: number,
  steps: Int32Array,
  penalties: Float64Array,
): void {
  let [sum, count] = [0, 0];
  for (let k = 0; k < penalties.length; k++) {
    const centre = pixel + steps[k];
    penalties[k] = from[centre] < 0 ? Infinity : cost[centre];
    if (from[centre] < 0) continue;
    sum += cost[centre];
    count++;
  }
  const share = SHARPNESS / ((count > 0 ? sum / count : 0) + LEAST_COST);
  for (let k = 0; k < penalties.length; k++) {
    const centre = pixel + steps[k];
    penalties[k] = share * penalties[k] + FARNESS * Math.min(FARTHEST, depth[centre]);
  }
}

/** What each patch over a pixel counts, 0 where it has no say. */
function weightsFrom(penalties: Float64Array, voting: Voting, weights: Float64Array): void {
  if (voting === 'weighted') {
    for (let k = 0; k < penalties.length; k++) weights[k] = Math.exp(-penalties[k]);
    return;
  }
  let best = 0;
  for (let k = 1; k < penalties.length; k++) if (penalties[k] < penalties[best]) best = k;
  weights.fill(0);
  if (penalties[best] < Infinity) weights[best] = 1;
}

/**
 * Fills lost pixels from the sources of all patches that hold them.
 *
 * @param pixels lost pixels to be filled
 * @returns mean change of a value, of 255
 */
export function votePatches(
  level: CompletionLevel,
  field: PatchField,
  { lift }: PatchCost,
  pixels: Int32Array,
  voting: Voting,
): number {
  const { width, channels, colours, roughX, roughY } = level;
  const { from, taken } = field;
  const fresh = new Float32Array(pixels.length * channels);
  const steps = stepsToCentres(width);
  const penalties = new Float64Array(SIDE ** 2);
  const weights = new Float64Array(SIDE ** 2);
  for (let n = 0; n < pixels.length; n++) {
    penalise(level, field, pixels[n], steps, penalties);
    weightsFrom(penalties, voting, weights);
    let total = 0;
    for (let k = 0; k < weights.length; k++) {
      if (weights[k] === 0) continue;
      const step = steps[k];
      const source = from[pixels[n] + step];
      total += weights[k];
      taken[pixels[n]] = source - step;
      for (let c = 0; c < channels; c++)
        fresh[n * channels + c] +=
          weights[k] * (colours[(source - step) * channels + c] + lift(pixels[n] + step, source, c));
    }
    for (let c = 0; c < channels; c++) {
      const at = n * channels + c;
      const old = colours[pixels[n] * channels + c];
      fresh[at] = total > 0 ? Math.min(255, Math.max(0, fresh[at] / total)) : old;
    }
  }
  let change = 0;
  for (let n = 0; n < pixels.length; n++) {
    const pixel = pixels[n];
    for (let c = 0; c < channels; c++) {
      change += Math.abs(fresh[n * channels + c] - colours[pixel * channels + c]);
      colours[pixel * channels + c] = fresh[n * channels + c];
    }
    if (from[pixel] < 0) continue;
    roughX[pixel] = roughX[from[pixel]];
    roughY[pixel] = roughY[from[pixel]];
  }
  return change / Math.max(1, pixels.length * channels);
}
