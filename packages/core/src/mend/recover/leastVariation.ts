import type { Descent } from '../../solve/levenberg.ts';
import type { LightPatch } from './lightPatch.ts';
import { AT } from './veilParameters.ts';
import type { Span } from './veilShape.ts';
import { createVeilShape } from './veilShape.ts';

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

/** Light below this is mostly noise: it is told apart only weakly. */
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
  for (let y = 0, k = 0; y < height; y++)
    for (let x = 1; x < width; x++) steps[k++] = Math.abs(seen[y * width + x] - seen[y * width + x - 1]);
  const mean = steps.reduce((sum, step) => sum + step, 0) / steps.length;
  return { median: steps.sort()[steps.length >> 1], mean };
}

function prepare(light: Float32Array, patch: LightPatch, kind: 'shadow' | 'lit'): Channel {
  const seen = kind === 'shadow' ? light.map(toLog) : light;
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
 * is looked for in linear light, where that light is an addition; there its depth is told by a second cue as well:
 * undone, texture is as strong inside as outside (the Jacobian of the undoing, were steps drawn from one Laplace law).
 *
 * @param patch one channel or all; clipped samples and other faults marked as not known
 */
export function createVariation(patch: LightPatch, prior: VeilPrior): Variation {
  const { width, planes, known } = patch;
  const isLit = prior.expected.length > AT.light;
  const channels = planes.map((light) => prepare(light, patch, isLit ? 'lit' : 'shadow'));
  const shape = createVeilShape(patch);
  const undone = new Float32Array(known.length);
  const byAmount = new Float32Array(known.length);
  const byLight = new Float32Array(known.length);

  /** Undoes the veil on one channel, and says how the result changes with `a` and with the veil's light. */
  function undo({ seen }: Channel, light: number, span: Span): void {
    for (let row = span.firstY; row < span.endY; row++) {
      for (let i = row * width + span.firstX; i < row * width + span.endX; i++) {
        const through = 1 - shape.amount[i];
        if (isLit) {
          undone[i] = (seen[i] - shape.amount[i] * light) / through;
          byAmount[i] = (undone[i] - light) / through;
          byLight[i] = -shape.amount[i] / through;
        } else {
          undone[i] = seen[i] - Math.log(through);
          byAmount[i] = 1 / through;
        }
      }
    }
  }

  /** Adds up one channel's steps to the right or down. */
  function addSteps(
    { seen, rounding, gain, contrast }: Channel,
    along: number,
    span: Span,
    shapeFree: readonly number[],
    lightAt: number,
    { matrix, right }: Omit<Descent, 'cost'>,
  ): number {
    const n = right.length;
    const free = Int32Array.from(lightAt >= 0 ? [...shapeFree.keys(), lightAt] : shapeFree.keys());
    const count = free.length;
    const shapeCount = shapeFree.length;
    const change = new Float64Array(n);
    // The outermost samples of the span carry nothing, so pairs that leave it need no look.
    const endX = along === 1 ? span.endX - 1 : span.endX;
    const endY = along === 1 ? span.endY : span.endY - 1;
    const { amount, slopes } = shape;
    let cost = 0;
    for (let row = span.firstY; row < endY; row++) {
      for (let i = row * width + span.firstX; i < row * width + endX; i++) {
        const j = i + along;
        if (!known[i] || !known[j]) continue;
        // Where the veil is as deep on both sides, a shadow changes nothing; nor does any veil where it is not.
        if (amount[i] === amount[j] && (contrast === 0 || amount[i] === 0)) continue;
        const before = seen[j] - seen[i];
        const after = undone[j] - undone[i];
        const length = Math.sqrt(after * after + rounding * rounding);
        cost += gain * (length - Math.sqrt(before * before + rounding * rounding));
        if (contrast > 0) cost += contrast * Math.log((1 - amount[i]) * (1 - amount[j]));
        if (n === 0) continue;
        for (let q = 0; q < shapeCount; q++) {
          const slope = slopes[shapeFree[q]];
          change[q] = byAmount[j] * slope[j] - byAmount[i] * slope[i];
        }
        if (lightAt >= 0) change[lightAt] = byLight[j] - byLight[i];
        // Iteratively reweighted least squares: the length of a step as its square over its last length.
        const weight = gain / length;
        for (let a = 0; a < count; a++) {
          const q = free[a];
          const weighted = weight * change[q];
          right[q] -= weighted * after;
          for (let b = 0; b <= a; b++) matrix[q * n + free[b]] += weighted * change[free[b]];
        }
      }
    }
    return cost;
  }

  function describe(point: Float64Array, free: readonly number[]): Descent {
    const n = free.length;
    const normal = { matrix: new Float64Array(n * n), right: new Float64Array(n) };
    const shapeFree = free.filter((parameter) => parameter < AT.light);
    const span = shape.lay(point);
    let cost = 0;
    channels.forEach((channel, c) => {
      undo(channel, isLit ? point[AT.light + c] : 0, span);
      const lightAt = free.indexOf(AT.light + c);
      for (const along of [1, width]) cost += addSteps(channel, along, span, shapeFree, lightAt, normal);
    });
    return { cost: cost + addPrior(point, free, prior, normal), ...normal };
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
  free.forEach((parameter, i) => {
    const weight = 1 / spread[parameter] ** 2;
    matrix[i * free.length + i] += weight;
    right[i] -= weight * (point[parameter] - expected[parameter]);
  });
  return cost;
}
