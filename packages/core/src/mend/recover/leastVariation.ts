import { kernels, layOut, take } from '../../kernels/kernels.ts';
import { columnOf } from '../../measure/columnOf.ts';
import type { Descent } from '../../solve/levenberg.ts';
import type { LightPatch } from './lightPatch.ts';
import { PIXEL_BLUR } from '../../veil/veil.ts';
import { AT, MOST_PARAMETERS } from './veilParameters.ts';

/** What is known of a veil before looking: expected values and how far they may be off. */
export interface VeilPrior {
  readonly expected: Float64Array;
  readonly spread: Float64Array;
}

/** The cost of a veil on a patch, to be made small. */
export interface Variation {
  /**
   * The variation that is left when the veil is undone, less that of the patch as it is, in units of log likelihood,
   * with the prior added; and the way down for the parameters that are free.
   */
  describe(point: Float64Array, free: readonly number[]): Descent;
}

/** Light below this is mostly noise: it is parameters apart only weakly. */
const DARK = 0.004;
/** How much smaller than the usual a step must be before it counts by its square. */
const ROUNDING = 0.25;
/** A step that every picture has, in log light and in light: keeps flat places from dividing by nothing. */
const LEAST_STEP = { shadow: 1e-3, lit: 3e-4 };
/**
 * Neighbouring steps of a texture go together, so each is worth less than a whole observation. Found by trial on
 * damaged photographs.
 */
const TEMPER = { shadow: 0.12, lit: 0.06 };
/**
 * Weight of the second cue for a lit veil, as strong a texture inside as outside. Above 1 because the mean step
 * that it is held against contains the faint steps of calm places too; by trial.
 */
const TEXTURE_CUE = 1.3;

/** Samples behind a plane that may be read or written together with its last one. */
const SPARE = 8;
/** Room the compiled loop works in: planes, rows, and sums. */
const WORK = { planes: 18, rows: 9, sums: 45 * 4 };
/** Where the parameters stand among what the compiled loop is parameters, and behind a full set of them the channels' measures. */
const POINT_AT = 4;
const MEASURES_AT = POINT_AT + MOST_PARAMETERS;

/** Log light, carried on straight below zero so that an overshoot costs but does not break. */
const toLog = (light: number): number =>
  light >= 0 ? Math.log(light + DARK) : Math.log(DARK) + light / DARK;

/** What stays the same over all evaluations on one channel. */
interface Channel {
  /** Log light where a shadow is looked for, light where a lit veil is. */
  readonly seen: Float32Array;
  /** Below this a step counts by its square. */
  readonly rounding: number;
  /** Log likelihood of a unit of step. */
  readonly gain: number;
  /** Log likelihood of the contrast by which an undone veil strengthens each step. */
  readonly contrast: number;
}

/** Median and mean of the steps between neighbours in a row. */
function usualSteps(seen: Float32Array, width: number, height: number): { median: number; mean: number } {
  const steps = new Float32Array(height * (width - 1));
  let sum = 0;
  for (let y = 0, k = 0; y < height; y++)
    for (let x = 1; x < width; x++, k++) {
      steps[k] = Math.abs(seen[y * width + x] - seen[y * width + x - 1]);
      sum += steps[k];
    }
  const mean = sum / steps.length;
  return { median: steps.sort()[steps.length >> 1], mean };
}

function prepare(light: Float32Array, patch: LightPatch, kind: 'shadow' | 'lit'): Channel {
  const seen = kind === 'shadow' ? columnOf(Float32Array, light, toLog) : light;
  const { median, mean } = usualSteps(seen, patch.width, patch.height);
  const gain = TEMPER[kind] / patch.planes.length / (median + LEAST_STEP[kind]);
  return {
    seen,
    rounding: ROUNDING * median + 2e-5,
    gain,
    contrast: kind === 'lit' ? 0.5 * TEXTURE_CUE * gain * mean : 0,
  };
}

/**
 * The total variation of a patch with a veil undone. Texture of the subject does not line up with a disc, so the true
 * veil leaves the least.
 *
 * A shadow is looked for in log light, where it is an addition and no depth is favoured. A veil with light of its own
 * is looked for in linear light, where that light is an addition; there its depth is parameters by a second cue as well:
 * undone, texture is as strong inside as outside (the Jacobian of the undoing, were steps drawn from one Laplace law).
 *
 * @param patch one channel or all; clipped samples and other faults marked as not known
 */
export function createVariation(patch: LightPatch, prior: VeilPrior): Variation {
  const { left, top, scale, width, height, planes, known } = patch;
  const isLit = prior.expected.length > AT.light;
  const channels = planes.map((light) => prepare(light, patch, isLit ? 'lit' : 'shadow'));
  const size = width * height + SPARE;
  const seen = new Float32Array(channels.length * size);
  channels.forEach((channel, c) => seen.set(channel.seen, c * size));
  const parameters = new Float32Array(known);
  const room = 4 * (WORK.planes * size + WORK.rows * (width + 8) + WORK.sums);
  const measures = channels.flatMap(({ rounding, gain, contrast }) => [rounding, gain, contrast]);

  function describe(point: Float64Array, free: readonly number[]): Descent {
    const n = free.length;
    const facts = new Float64Array(MEASURES_AT + measures.length);
    facts.set([left, top, scale, PIXEL_BLUR, ...point]);
    facts[POINT_AT + AT.logRadius] = Math.exp(point[AT.logRadius]);
    facts.set(measures, MEASURES_AT);
    const found = new Float64Array(1 + n * n + n);
    const [ofFacts, ofSeen, ofTold, ofFree, ofFound, work] = layOut([
      facts,
      seen,
      parameters,
      Int32Array.from(free),
      found,
      room,
    ]);
    const { describeVeil } = kernels();
    const shape = [width, height, 4 * size, channels.length, isLit ? 1 : 0] as const;
    describeVeil(ofFacts, ofSeen, ofTold, ...shape, ofFree, n, work, ofFound);
    const sums = take(Float64Array, ofFound, found.length);
    const normal = { matrix: sums.subarray(1, 1 + n * n), right: sums.subarray(1 + n * n) };
    return { cost: sums[0] + addPrior(point, free, prior, normal), ...normal };
  }

  return { describe };
}

/** Normal prior on every parameter. The free ones must come with those of the shape first. */
function addPrior(
  point: Float64Array,
  free: readonly number[],
  { expected, spread }: VeilPrior,
  { matrix, right }: Omit<Descent, 'cost'>,
): number {
  let cost = 0;
  for (let k = 0; k < point.length; k++) cost += 0.5 * ((point[k] - expected[k]) / spread[k]) ** 2;
  for (let i = 0; i < free.length; i++) {
    const parameter = free[i];
    const weight = 1 / spread[parameter] ** 2;
    matrix[i * free.length + i] += weight;
    right[i] -= weight * (point[parameter] - expected[parameter]);
  }
  return cost;
}
