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
  readonly places: Places;
}

/**
 * What a restorer's decisions may hang on, beside what the finder says, with what is believed of each before anything was
 * decided: the mean and the spread of its weight, in log-odds.
 */
const TRAITS = {
  // What all kinds have in common is believed least: dust that was dismissed says little of scratches.
  any: { mean: 0, spread: 0.4 },
  'dark speck': { mean: 0, spread: 1 },
  'bright speck': { mean: 0, spread: 1 },
  line: { mean: 0, spread: 1 },
  area: { mean: 0, spread: 1 },
  small: { mean: 0, spread: 0.4 },
  large: { mean: 0, spread: 0.4 },
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

/** What was decided at a place, on pictures other than the one that is asked about. */
type Places = (
  fault: Pick<Fault, 'x' | 'y' | 'r'>,
  sides: Sides,
  own: ReviewedPicture | null,
) => { readonly fault: boolean; readonly none: boolean };

function placesOf(pictures: readonly ReviewedPicture[]): Places {
  const grid = createPlaceGrid<
    Pick<Fault, 'x' | 'y' | 'r'> & { readonly isFault: boolean; readonly on: ReviewedPicture }
  >(1);
  // In cells of the least distance of two places.
  const scaleOf = ({ width, height }: Sides): number => 1 / (NEAR * Math.hypot(width, height));
  for (const on of pictures) {
    const scale = scaleOf(on);
    const add = ({ x, y, r }: Fault, isFault: boolean): void =>
      grid.add(x * scale, y * scale, { x: x * scale, y: y * scale, r: r * scale, isFault, on });
    for (const { fault, isFault } of on.findings) if (isFault !== null) add(fault, isFault);
    for (const fault of on.marked) add(fault, true);
  }
  return ({ x, y, r }, sides, own) => {
    const scale = scaleOf(sides);
    const [cx, cy] = [x * scale, y * scale];
    let [fault, none] = [false, false];
    grid.some(cx, cy, (other) => {
      if (other.on === own || (other.isFault ? fault : none)) return false;
      const near = Math.max(0.5, Math.min(1, 0.7 * (r * scale + other.r)));
      if ((other.x - cx) ** 2 + (other.y - cy) ** 2 >= near * near) return false;
      if (other.isFault) fault = true;
      else none = true;
      return fault && none;
    });
    return { fault, none };
  };
}

/** The traits that a fault has. @param own the picture it lies on, where that is one that was gone through */
function traitsOf(fault: Fault, sides: Sides, own: ReviewedPicture | null, places: Places): LearnedTrait[] {
  const share = fault.r / Math.hypot(sides.width, sides.height);
  const elsewhere = places(fault, sides, own);
  const traits: LearnedTrait[] = ['any', kindTrait(fault)];
  if (share < SMALL) traits.push('small');
  if (share > LARGE) traits.push('large');
  if (elsewhere.fault) traits.push('fault elsewhere');
  if (elsewhere.none) traits.push('none elsewhere');
  return traits;
}

interface Example {
  /** Those that it has, by their places in the list of traits. */
  readonly traits: readonly number[];
  readonly odds: number;
  readonly label: 0 | 1;
  readonly weight: number;
}

/** Log-odds so near to one another count as the same: of thousands of findings most are alike. */
const ODDS_STEP = 0.1;

/** Everything that was decided, what is alike as one example that weighs as much as all of it. */
function examplesOf(pictures: readonly ReviewedPicture[], places: Places): Example[] {
  const alike = new Map<string, Example>();
  const add = (traits: readonly number[], odds: number, label: 0 | 1, weight: number): void => {
    const step = Math.round(odds / ODDS_STEP);
    const key = `${traits.join()} ${step} ${label}`;
    const known = alike.get(key)?.weight ?? 0;
    alike.set(key, { traits, odds: step * ODDS_STEP, label, weight: known + weight });
  };
  for (const picture of pictures) {
    // A place is held against the other pictures only: on its own picture it is the answer.
    const indicesOf = (fault: Fault): number[] =>
      traitsOf(fault, picture, picture, places).map((name) => NAMES.indexOf(name));
    for (const { fault, isFault } of picture.findings)
      add(
        indicesOf(fault),
        boundedOdds(fault.confidence),
        isFault === true ? 1 : 0,
        isFault === null ? UNMARKED : 1,
      );
    for (const fault of picture.marked) add(indicesOf(fault), UNMEASURED, 1, 1);
  }
  return [...alike.values()];
}

/**
 * Learns from what a restorer decided on pictures of a job: a logistic regression on a few traits with the finder's log-odds
 * as what they are added to, and weights that stay near to what is believed beforehand as long as little was decided (maximum
 * a posteriori with Gaussian priors, by Newton's method; Hastie, Tibshirani, Friedman 2009, 4.4).
 *
 * @param pictures with confidences as the finder gives them
 */
export function learnFrom(pictures: readonly ReviewedPicture[]): LearnedOdds {
  const places = placesOf(pictures);
  const examples = examplesOf(pictures, places);
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
      const p = logistic(traits.reduce((sum, a) => sum + weights[a], odds));
      const [pull, bend] = [weight * (label - p), weight * p * (1 - p)];
      for (const a of traits) {
        gradient[a] += pull;
        for (const b of traits) hessian[a * count + b] += bend;
      }
    }
    const step = solveSymmetric(hessian, gradient);
    // The priors make it positive definite; beyond what numbers can hold what was learned so far stands.
    if (!step) break;
    step.forEach((by, a) => (weights[a] += Math.max(-1, Math.min(1, by))));
    if (step.every((by) => Math.abs(by) < 1e-6)) break;
  }
  return {
    weights: Object.fromEntries(NAMES.map((name, a) => [name, weights[a]])) as LearnedOdds['weights'],
    places,
  };
}

/** Findings of another picture of the job, as sure as the finder and what was learned make them, in their order. */
export function withLearned<T extends Fault>(
  findings: readonly T[],
  sides: Sides,
  { weights, places }: LearnedOdds,
): T[] {
  return findings.map((fault) => {
    const shift = traitsOf(fault, sides, null, places).reduce((sum, name) => sum + weights[name], 0);
    return { ...fault, confidence: logistic(boundedOdds(fault.confidence) + shift) };
  });
}
