import { levenberg } from '../../../solve/levenberg.ts';
import type { Descent } from '../../../solve/levenberg.ts';
import { penumbraFast, penumbraSlope } from '../../../veil/penumbra.ts';
import type { LineVeil } from './lineVeil.ts';
import {
  CORRECTIONS,
  DEEPEST,
  amountAt,
  correctedAmount,
  correctionPlace,
  readBetween,
  shoulderOf,
} from './lineVeil.ts';

/** What is seen around a line, sample by sample, and what the surroundings lead one to expect there. */
export interface LineSamples {
  /** Signed distance from the course, in pixels. */
  readonly across: Float32Array;
  /** Place on the course, as a number of its points. */
  readonly place: Float32Array;
  /** Linear light that is seen, and that is expected without the line: one array for each colour channel. */
  readonly seen: readonly Float32Array[];
  readonly expected: readonly Float32Array[];
  /** Standard deviation of what is expected, for each channel. */
  readonly doubt: readonly number[];
}

/** A line's cross-section, the same all along but for the widths. */
export interface LineProfile {
  /** Factor on half of all widths. */
  readonly scale: number;
  readonly softness: number;
  readonly depth: number;
  readonly light: readonly number[];
  /** What is added to `a` by distance beyond the slit's border; see {@link LineVeil}. */
  readonly correction: readonly number[];
}

/** Standard deviation of rounding and grain of what is seen, in linear light. */
const SEEN_ERROR = 0.004;
/** How far the cross-section of a real line departs from any model, in `a`. */
const MODEL_ERROR = 0.01;
/** What scratches and hairs usually are, and how far they depart from it; common practice, widened by trial. */
const USUAL = { logScale: 0, softness: 0.3, depth: 0.9 };
const SPREAD = { logScale: 0.25, softness: 0.3, depth: 0.15, light: 1 };
/** Errors of neighbouring samples go together, so each is worth less than a whole observation. */
const TEMPER = 0.4;

const AT = { logScale: 0, softness: 1, depth: 2, light: 3 } as const;
const LOWEST = [Math.log(0.3), 0, 0.05];
const HIGHEST = [Math.log(2.5), 3, DEEPEST];
const LONGEST_STEP = [0.3, 0.3, 0.2];
/** Nothing on a scan is brighter than full scale; without a bound, light and depth trade off against each other. */
const BRIGHTEST = 1;

/** Spread of what is seen that no fit accounts for: rounding, grain, and what the model itself is off by. */
const leastVariance = (rest: number): number => SEEN_ERROR * SEEN_ERROR + (MODEL_ERROR * rest) ** 2;

/**
 * How unlikely a profile is, and the way down. What is expected has an error of its own, and the line hides it as it
 * hides the picture: `seen` is normal about `expected (1 - a) + a light` with the deviation `doubt (1 - a)`.
 */
function describe(
  { across, place, seen, expected, doubt }: LineSamples,
  halves: readonly number[],
  correction: readonly number[],
  point: Float64Array,
): Descent {
  const n = point.length;
  const matrix = new Float64Array(n * n);
  const right = new Float64Array(n);
  const [logScale, softness, depth] = point;
  const scale = Math.exp(logScale);
  const shoulder = shoulderOf(softness);
  let cost = 0;
  for (let i = 0; i < across.length; i++) {
    const away = Math.abs(across[i]);
    const half = scale * readBetween(halves, place[i]);
    const [near, far] = [(half - away) / shoulder, (-half - away) / shoulder];
    const slit = penumbraFast(near) - penumbraFast(far);
    const [slopeNear, slopeFar] = [penumbraSlope(near), penumbraSlope(far)];
    const a = correctedAmount({ depth, correction }, slit, away - half);
    const byScale = (depth * half * (slopeNear + slopeFar)) / shoulder;
    const bySoftness = (-depth * (slopeNear * near - slopeFar * far) * softness) / (shoulder * shoulder);
    const changes = [byScale, bySoftness, slit];
    for (let c = 0; c < seen.length; c++) {
      const light = point[AT.light + c];
      const rest = light - expected[c][i];
      const through = (1 - a) * doubt[c];
      const variance = through * through + leastVariance(rest);
      const off = seen[c][i] - expected[c][i] - a * rest;
      cost += TEMPER * 0.5 * ((off * off) / variance + Math.log(variance));
      if (a === 0 && byScale === 0) continue;
      // Fisher scoring: mean and variance both move with a.
      const varianceByA = -2 * (1 - a) * doubt[c] * doubt[c];
      const pull = (off * rest) / variance + ((off * off) / variance - 1) * (varianceByA / (2 * variance));
      const stiff = (rest * rest) / variance + (varianceByA * varianceByA) / (2 * variance * variance);
      for (let q = 0; q < 3; q++) {
        right[q] += TEMPER * pull * changes[q];
        for (let p = 0; p <= q; p++) matrix[q * n + p] += TEMPER * stiff * changes[q] * changes[p];
      }
      const l = AT.light + c;
      right[l] += (TEMPER * off * a) / variance;
      matrix[l * n + l] += (TEMPER * a * a) / variance;
      for (let q = 0; q < 3; q++) matrix[l * n + q] += (TEMPER * a * rest * changes[q]) / variance;
    }
  }
  return addPrior({ cost, matrix, right }, point);
}

function addPrior({ cost, matrix, right }: Descent, point: Float64Array): Descent {
  const n = point.length;
  const expected = [USUAL.logScale, USUAL.softness, USUAL.depth];
  const spread = [SPREAD.logScale, SPREAD.softness, SPREAD.depth];
  let whole = cost;
  for (let q = 0; q < n; q++) {
    const [middle, width] = q < AT.light ? [expected[q], spread[q]] : [0.5, SPREAD.light];
    whole += 0.5 * ((point[q] - middle) / width) ** 2;
    matrix[q * n + q] += 1 / (width * width);
    right[q] -= (point[q] - middle) / (width * width);
  }
  return { cost: whole, matrix, right };
}

function advance(point: Float64Array, step: Float64Array): Float64Array {
  return point.map((value, q) => {
    if (q >= AT.light) return Math.min(BRIGHTEST, Math.max(0, value + step[q]));
    const moved = value + Math.max(-LONGEST_STEP[q], Math.min(LONGEST_STEP[q], step[q]));
    return Math.min(HIGHEST[q], Math.max(LOWEST[q], moved));
  });
}

/** How unlikely each sample is under a profile moved sideways by `shift` pixels; the measure of {@link followLine}. */
export function unlikeliness(
  { across, place, seen, expected, doubt }: LineSamples,
  halves: readonly number[],
  profile: LineProfile,
  i: number,
  shift: number,
): number {
  const { scale, light } = profile;
  const away = Math.abs(across[i] - shift);
  const half = scale * readBetween(halves, place[i]);
  const a = amountAt(profile, away, half);
  let cost = 0;
  for (let c = 0; c < seen.length; c++) {
    const rest = light[c] - expected[c][i];
    const variance = ((1 - a) * doubt[c]) ** 2 + leastVariance(rest);
    const off = seen[c][i] - expected[c][i] - a * rest;
    cost += TEMPER * 0.5 * ((off * off) / variance + Math.log(variance));
  }
  return cost;
}

/** How far a slit's cross-section usually departs from the model, in `a`. */
const USUAL_CORRECTION = 0.02;
const MOST_CORRECTION = 0.04;
/** Nodes of the course that its stiffness binds together. */
const BOUND_NODES = 9;
const BESIDE = { least: 0.015, most: 0.15 };

/**
 * What a fitted cross-section still departs by from what is seen, by distance from the border, drawn towards 0 where it
 * cannot be variance; and how far the fit may be off.
 */
export function correctProfile(
  { across, place, seen, expected, doubt }: LineSamples,
  halves: readonly number[],
  { scale, softness, depth, light }: LineProfile,
): Pick<LineVeil, 'correction' | 'doubt'> {
  const pull = new Float64Array(CORRECTIONS + 1);
  const stiff = new Float64Array(CORRECTIONS + 1);
  const shoulder = shoulderOf(softness);
  let sideways = 0;
  for (let i = 0; i < across.length; i++) {
    const away = Math.abs(across[i]);
    const half = scale * readBetween(halves, place[i]);
    const at = correctionPlace(away - half);
    if (at >= CORRECTIONS) continue;
    const [near, far] = [(half - away) / shoulder, (-half - away) / shoulder];
    const a = depth * (penumbraFast(near) - penumbraFast(far));
    const slope = (depth * (penumbraSlope(near) - penumbraSlope(far))) / shoulder;
    const k = Math.floor(at);
    const share = at - k;
    for (let c = 0; c < seen.length; c++) {
      const rest = light[c] - expected[c][i];
      const through = (1 - a) * doubt[c];
      const weight = TEMPER / (through * through + leastVariance(rest));
      const off = seen[c][i] - expected[c][i] - a * rest;
      pull[k] += (1 - share) * weight * off * rest;
      pull[k + 1] += share * weight * off * rest;
      stiff[k] += (1 - share) * weight * rest * rest;
      stiff[k + 1] += share * weight * rest * rest;
      sideways += weight * (slope * rest) ** 2;
    }
  }
  const prior = 1 / USUAL_CORRECTION ** 2;
  const correction = Array.from({ length: CORRECTIONS }, (_, k) =>
    Math.min(MOST_CORRECTION, Math.max(-MOST_CORRECTION, pull[k] / (stiff[k] + prior))),
  );
  const variance =
    stiff.subarray(1, CORRECTIONS).reduce((sum, one) => sum + 1 / (one + prior), 0) / (CORRECTIONS - 1);
  const besideError = 1 / Math.sqrt(1e-9 + (BOUND_NODES * sideways) / halves.length);
  return {
    correction,
    doubt: {
      amount: Math.hypot(Math.sqrt(variance), MODEL_ERROR),
      beside: Math.min(BESIDE.most, Math.max(BESIDE.least, besideError)),
    },
  };
}

/** A fitted profile, and how much better than no line it explains what is seen, in log likelihood a sample. */
export interface FittedProfile {
  readonly profile: LineProfile;
  readonly evidence: number;
}

/**
 * Fits a line's cross-section by maximum likelihood.
 *
 * @param halves half the width at each point of the course, in pixels, as roughly known
 */
export function fitLineProfile(
  samples: LineSamples,
  halves: readonly number[],
  start: LineProfile,
): FittedProfile {
  const from = Float64Array.from([Math.log(start.scale), start.softness, start.depth, ...start.light]);
  const { point, cost } = levenberg(from, (at) => describe(samples, halves, start.correction, at), advance, {
    rounds: 25,
    leastGain: 1e-3,
  });
  const none = describe(samples, halves, [], Float64Array.from([LOWEST[0], 0, 0, ...start.light])).cost;
  return {
    profile: {
      scale: Math.exp(point[AT.logScale]),
      softness: point[AT.softness],
      depth: point[AT.depth],
      light: [...point.subarray(AT.light)],
      correction: start.correction,
    },
    evidence: (none - cost) / Math.max(1, samples.across.length),
  };
}
