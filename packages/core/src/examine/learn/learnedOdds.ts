import type { Fault } from '../../fault/fault.ts';
import type { PictureShape } from '../../raster/raster.ts';
import { solveSymmetric } from '../../solve/cholesky.ts';
import { logistic } from '../../solve/logistic.ts';
import { boundedOdds } from '../classify/boundedOdds.ts';
import { logOdds } from '../classify/logOdds.ts';
import { createPlaceGrid } from '../placeGrid.ts';

type Sides = Pick<PictureShape, 'width' | 'height'>;

/** A picture that a restorer went through. */
export interface ReviewedPicture extends Sides {
  /** What was measured, and what the restorer made of each: a fault, none, or null where it was not listed and not marked. */
  readonly findings: readonly { readonly fault: Fault; readonly isFault: boolean | null }[];
  /** What the restorer marked by hand: faults that were not listed. */
  readonly marked: readonly Fault[];
}

/** What was learned from a restorer: a weight for each trait, and where faults were and were none. */
export interface LearnedOdds {
  readonly weights: Readonly<Record<LearnedTrait, number>>;
  readonly pictures: readonly ReviewedPicture[];
}

/**
 * What a restorer's decisions may hang on, beside what the finder says, with what is believed of each before anything was
 * decided: the mean and the spread of its weight, in log-odds.
 */
const TRAITS = {
  any: { mean: 0, spread: 0.6 },
  'dark speck': { mean: 0, spread: 0.8 },
  'bright speck': { mean: 0, spread: 0.8 },
  line: { mean: 0, spread: 0.8 },
  area: { mean: 0, spread: 0.8 },
  small: { mean: 0, spread: 0.6 },
  large: { mean: 0, spread: 0.6 },
  // At the same place of another picture there was a fault, as dust on a sensor or on a scanner's glass is; or there was none.
  'fault elsewhere': { mean: 1, spread: 1 },
  'none elsewhere': { mean: -1, spread: 1 },
} as const;
export type LearnedTrait = keyof typeof TRAITS;
const NAMES = Object.keys(TRAITS) as LearnedTrait[];

/** Radii that are small and large, as shares of the picture's diagonal. */
const [SMALL, LARGE] = [0.0008, 0.004];
/** What was not listed and not marked is probably no fault: a restorer does not look for all that a finder doubts. */
const UNMARKED = 0.3;
/** A fault that was marked where nothing was measured had hardly any odds, in log-odds. */
const UNMEASURED = logOdds(0.03);
const ROUNDS = 20;
/** Cells of places, as a share of the diagonal; two places are the same when they lie so near, at least. */
const NEAR = 0.002;

function kindTrait({ kind, polarity, path, outline }: Fault): LearnedTrait {
  if (path) return 'line';
  if (outline) return 'area';
  return kind === 'speck' && polarity === 'bright' ? 'bright speck' : 'dark speck';
}

/** Tells whether something lies at a place of a picture, by shares of its diagonal. */
type Places = (fault: Pick<Fault, 'x' | 'y' | 'r'>, picture: Sides) => boolean;

function placesOf(pictures: readonly ReviewedPicture[], which: 'fault' | 'none'): Places {
  const grid = createPlaceGrid<{ readonly x: number; readonly y: number; readonly r: number }>(1);
  // In cells of the least distance of two places.
  const scaleOf = ({ width, height }: Sides): number => 1 / (NEAR * Math.hypot(width, height));
  for (const picture of pictures) {
    const scale = scaleOf(picture);
    const own = picture.findings
      .filter(({ isFault }) => isFault === (which === 'fault'))
      .map(({ fault }) => fault);
    for (const { x, y, r } of which === 'fault' ? [...own, ...picture.marked] : own)
      grid.add(x * scale, y * scale, { x: x * scale, y: y * scale, r: r * scale });
  }
  return ({ x, y, r }, picture) => {
    const scale = scaleOf(picture);
    const [cx, cy] = [x * scale, y * scale];
    return grid.some(
      cx,
      cy,
      (other) =>
        Math.hypot(other.x - cx, other.y - cy) < Math.max(0.5, Math.min(1, 0.7 * (r * scale + other.r))),
    );
  };
}

function traitsOf(
  fault: Fault,
  picture: Sides,
  faults: Places,
  none: Places,
): Partial<Record<LearnedTrait, 1>> {
  const share = fault.r / Math.hypot(picture.width, picture.height);
  return {
    any: 1,
    [kindTrait(fault)]: 1,
    ...(share < SMALL ? { small: 1 } : {}),
    ...(share > LARGE ? { large: 1 } : {}),
    ...(faults(fault, picture) ? { 'fault elsewhere': 1 } : {}),
    ...(none(fault, picture) ? { 'none elsewhere': 1 } : {}),
  };
}

interface Example {
  readonly traits: readonly number[];
  readonly odds: number;
  readonly label: 0 | 1;
  readonly weight: number;
}

function examplesOf(pictures: readonly ReviewedPicture[]): Example[] {
  return pictures.flatMap((picture) => {
    // A place is held against the other pictures only: on its own picture it is the answer.
    const others = pictures.filter((one) => one !== picture);
    const [faults, none] = [placesOf(others, 'fault'), placesOf(others, 'none')];
    const rowOf = (fault: Fault): number[] => {
      const traits = traitsOf(fault, picture, faults, none);
      return NAMES.map((name) => traits[name] ?? 0);
    };
    return [
      ...picture.findings.map(({ fault, isFault }): Example => ({
        ...{ traits: rowOf(fault), odds: boundedOdds(fault.confidence) },
        ...{ label: isFault === true ? 1 : 0, weight: isFault === null ? UNMARKED : 1 },
      })),
      ...picture.marked.map((fault): Example => ({
        ...{ traits: rowOf(fault), odds: UNMEASURED, label: 1, weight: 1 },
      })),
    ];
  });
}

/**
 * Learns from what a restorer decided on pictures of a job: a logistic regression on a few traits with the finder's log-odds
 * as what they are added to, and weights that stay near to what is believed beforehand as long as little was decided (maximum
 * a posteriori with Gaussian priors, by Newton's method; Hastie, Tibshirani, Friedman 2009, 4.4).
 *
 * @param pictures with confidences as the finder gives them
 */
export function learnFrom(pictures: readonly ReviewedPicture[]): LearnedOdds {
  const examples = examplesOf(pictures);
  const count = NAMES.length;
  const weights = NAMES.map((name): number => TRAITS[name].mean);
  for (let round = 0; round < ROUNDS; round++) {
    const gradient = new Float64Array(count);
    const hessian = new Float64Array(count * count);
    NAMES.forEach((name, a) => {
      const { mean, spread } = TRAITS[name];
      gradient[a] = (mean - weights[a]) / spread ** 2;
      hessian[a * count + a] = 1 / spread ** 2;
    });
    for (const { traits, odds, label, weight } of examples) {
      const p = logistic(traits.reduce((sum, value, a) => sum + value * weights[a], odds));
      const [pull, bend] = [weight * (label - p), weight * p * (1 - p)];
      traits.forEach((value, a) => {
        if (value === 0) return;
        gradient[a] += pull * value;
        traits.forEach((other, b) => (hessian[a * count + b] += bend * value * other));
      });
    }
    const step = solveSymmetric(hessian, gradient);
    // The priors make it positive definite; beyond what numbers can hold what was learned so far stands.
    if (!step) break;
    step.forEach((by, a) => (weights[a] += Math.max(-1, Math.min(1, by))));
    if (step.every((by) => Math.abs(by) < 1e-6)) break;
  }
  return {
    weights: Object.fromEntries(NAMES.map((name, a) => [name, weights[a]])) as LearnedOdds['weights'],
    pictures,
  };
}

/** Findings of another picture of the job, as sure as the finder and what was learned make them, in their order. */
export function withLearned<T extends Fault>(
  findings: readonly T[],
  picture: Sides,
  { weights, pictures }: LearnedOdds,
): T[] {
  const [faults, none] = [placesOf(pictures, 'fault'), placesOf(pictures, 'none')];
  return findings.map((fault) => {
    const traits = traitsOf(fault, picture, faults, none);
    const shift = NAMES.reduce((sum, name) => sum + (traits[name] ?? 0) * weights[name], 0);
    return { ...fault, confidence: logistic(boundedOdds(fault.confidence) + shift) };
  });
}
