import type { LightPatch } from '../mend/recover/lightPatch.ts';
import { shrinkLight } from '../mend/recover/lightPatch.ts';
import type { VeilPrior } from '../mend/recover/leastVariation.ts';
import { createVariation } from '../mend/recover/leastVariation.ts';
import { AT, SHAPE_PARAMETERS, veilFrom } from '../mend/recover/veilParameters.ts';
import type { Descent } from '../solve/levenberg.ts';
import { levenberg } from '../solve/levenberg.ts';
import type { Particle } from './particle.ts';
import { REFERENCE_F } from './particle.ts';

/** A frame's look at one place: grey light in sensor pixels, and the f-number it was taken at. */
export interface FrameView {
  readonly patch: LightPatch;
  /** null where it is not known. */
  readonly fNumber: number | null;
}

export interface FittedParticle {
  readonly particle: Particle;
  /** For each view how much more likely it is with the shadow undone, in units of log likelihood. */
  readonly evidence: readonly number[];
  /** For each view the depth that suits it best, all else kept, and its standard error. */
  readonly depths: readonly { readonly depth: number; readonly error: number }[];
}

/**
 * A particle as numbers that can be fitted: centre, logarithm of its radius, logarithm of its penumbra at the reference
 * f-number, the two parts of its shear, depth.
 */
const P = { x: 0, y: 1, logRadius: 2, logBorder: 3, shearA: 4, shearB: 5, depth: 6 } as const;
const PARAMETERS = 7;

/** What dust usually is, and how far it departs from that: common practice, widened by trial. */
const USUAL = { softness: 0.45, depth: 0.18 };
const SPREAD = { centre: 0.25, logRadius: 0.4, logSoftness: 0.6, shear: 0.08, depth: 0.14 };
const LONGEST_STEP = [0.3, 0.3, 0.25, 0.3, 0.1, 0.1, 0.15];
const DEPTHS = [0.004, 0.97] as const;
const LEAST_SOFTNESS = 0.02;
const MOST_SHEAR = 0.3;

/** Radii in samples at which the search is made: rough and fast, then finer. */
const ROUGH_RADIUS = 5;
const FINE_RADIUS = 10;
/** So many of the views, the first, are searched; the others only say what they think of it. */
const ROUGH_VIEWS = 4;

/** What a rough look must give for a finer one, in each view at most so much: no shadow that is there gives so little. */
const HOPELESS = 0.8;
const HOPELESS_PER_VIEW = 0.3;
const MOST_HOPE = 3;

const STARTS = [0.75, 1, 1.35].flatMap((factor) => [0.3, 0.8].map((softness) => ({ factor, softness })));

/** No view is so wide as this, so that a single one's own prior never counts. */
const FREE: VeilPrior = {
  expected: new Float64Array(SHAPE_PARAMETERS),
  spread: new Float64Array(SHAPE_PARAMETERS).fill(1e9),
};

/** A view's shadow for a particle, and how it changes with each of the particle's numbers, row after row. */
function shadowPoint(point: Float64Array, fNumber: number | null): { veil: Float64Array; by: Float64Array } {
  const veil = new Float64Array(SHAPE_PARAMETERS);
  const by = new Float64Array(SHAPE_PARAMETERS * PARAMETERS);
  const set = (row: number, column: number, value: number): void => {
    by[row * PARAMETERS + column] = value;
  };
  const wide = point[P.logBorder] + Math.log(REFERENCE_F / (fNumber ?? REFERENCE_F));
  const ratio = wide - point[P.logRadius];
  veil[AT.x] = point[P.x];
  veil[AT.y] = point[P.y];
  veil[AT.shearA] = point[P.shearA];
  veil[AT.shearB] = point[P.shearB];
  set(AT.x, P.x, 1);
  set(AT.y, P.y, 1);
  set(AT.shearA, P.shearA, 1);
  set(AT.shearB, P.shearB, 1);
  const softness = Math.max(LEAST_SOFTNESS, Math.exp(-Math.abs(ratio)));
  const bySoftness = softness > LEAST_SOFTNESS ? softness : 0;
  veil[AT.softness] = softness;
  if (ratio <= 0) {
    veil[AT.logRadius] = point[P.logRadius];
    veil[AT.depth] = point[P.depth];
    set(AT.logRadius, P.logRadius, 1);
    set(AT.softness, P.logBorder, bySoftness);
    set(AT.softness, P.logRadius, -bySoftness);
    set(AT.depth, P.depth, 1);
  } else {
    const share = Math.exp(-2 * ratio);
    veil[AT.logRadius] = wide;
    veil[AT.depth] = point[P.depth] * share;
    set(AT.logRadius, P.logBorder, 1);
    set(AT.softness, P.logRadius, bySoftness);
    set(AT.softness, P.logBorder, -bySoftness);
    set(AT.depth, P.depth, share);
    set(AT.depth, P.logRadius, 2 * veil[AT.depth]);
    set(AT.depth, P.logBorder, -2 * veil[AT.depth]);
  }
  return { veil, by };
}

/** The numbers of a shadow that those of its particle change. */
const shapeFor = (free: readonly number[]): readonly number[] =>
  free.length === 1 && free[0] === P.depth ? [AT.depth] : free.includes(P.shearA) ? WHOLE_SHAPE : ROUND_SHAPE;
const ROUND_SHAPE = [AT.x, AT.y, AT.logRadius, AT.softness, AT.depth];
const WHOLE_SHAPE = [...ROUND_SHAPE, AT.shearA, AT.shearB];

interface Look {
  readonly fNumber: number | null;
  readonly describe: (point: Float64Array, free: readonly number[]) => Descent;
}

const looksAt = (views: readonly FrameView[], r: number, samples: number): Look[] =>
  views.map(({ patch, fNumber }) => ({
    fNumber,
    describe: createVariation(shrinkLight(patch, r, samples), FREE).describe,
  }));

/** Adds a view's way down to that of the particle, by the chain rule. */
function addView(
  { fNumber, describe }: Look,
  point: Float64Array,
  free: readonly number[],
  onto: { matrix: Float64Array; right: Float64Array },
): number {
  const { veil, by } = shadowPoint(point, fNumber);
  const shape = shapeFor(free);
  const { cost, matrix, right } = describe(veil, shape);
  const [n, m] = [free.length, shape.length];
  const half = new Float64Array(m * n);
  for (let a = 0; a < m; a++)
    for (let q = 0; q < n; q++) {
      let sum = 0;
      for (let b = 0; b < m; b++)
        sum += matrix[Math.max(a, b) * m + Math.min(a, b)] * by[shape[b] * PARAMETERS + free[q]];
      half[a * n + q] = sum;
    }
  for (let p = 0; p < n; p++)
    for (let a = 0; a < m; a++) {
      const slope = by[shape[a] * PARAMETERS + free[p]];
      if (slope === 0) continue;
      onto.right[p] += slope * right[a];
      for (let q = 0; q <= p; q++) onto.matrix[p * n + q] += slope * half[a * n + q];
    }
  return cost;
}

function describeAll(
  looks: readonly Look[],
  point: Float64Array,
  free: readonly number[],
  { expected, spread }: VeilPrior,
): Descent {
  const n = free.length;
  const sum = { matrix: new Float64Array(n * n), right: new Float64Array(n) };
  let cost = 0;
  for (const look of looks) cost += addView(look, point, free, sum);
  for (let k = 0; k < PARAMETERS; k++) cost += 0.5 * ((point[k] - expected[k]) / spread[k]) ** 2;
  free.forEach((parameter, i) => {
    const weight = 1 / spread[parameter] ** 2;
    sum.matrix[i * n + i] += weight;
    sum.right[i] -= weight * (point[parameter] - expected[parameter]);
  });
  return { cost, ...sum };
}

/** Takes a step, no part of it too far and none beyond its bounds. */
function advance(point: Float64Array, step: Float64Array, free: readonly number[]): Float64Array {
  const next = point.slice();
  const radius = Math.exp(point[P.logRadius]);
  free.forEach((parameter, i) => {
    const longest = LONGEST_STEP[parameter] * (parameter <= P.y ? radius : 1);
    next[parameter] += Math.max(-longest, Math.min(longest, step[i]));
  });
  next[P.depth] = Math.min(DEPTHS[1], Math.max(DEPTHS[0], next[P.depth]));
  for (const shear of [P.shearA, P.shearB])
    next[shear] = Math.min(MOST_SHEAR, Math.max(-MOST_SHEAR, next[shear]));
  return next;
}

const ROUND = [P.x, P.y, P.logRadius, P.logBorder, P.depth];
const OVAL = [...ROUND, P.shearA, P.shearB];

function particleFrom(point: Float64Array): Particle {
  const { x, y, r, stretch, angle } = veilFrom(
    Float64Array.from([point[P.x], point[P.y], point[P.logRadius], 0, point[P.shearA], point[P.shearB], 0]),
  );
  return { x, y, r, stretch, angle, border: Math.exp(point[P.logBorder]), depth: point[P.depth] };
}

/** The depth that suits one view best, all else kept, and its error from the curvature there. */
function ownDepth(look: Look, point: Float64Array): { depth: number; error: number; evidence: number } {
  const { veil } = shadowPoint(point, look.fNumber);
  let depth = veil[AT.depth];
  let error = 1;
  const place = veil.slice();
  const { cost } = look.describe(veil, []);
  for (let round = 0; round < 4; round++) {
    place[AT.depth] = depth;
    const { matrix, right } = look.describe(place, [AT.depth]);
    if (!(matrix[0] > 0)) break;
    error = 1 / Math.sqrt(matrix[0]);
    depth = Math.min(DEPTHS[1], Math.max(-0.3, depth + Math.max(-0.1, Math.min(0.1, right[0] / matrix[0]))));
  }
  return { depth, error, evidence: -cost };
}

/**
 * Fits one particle to a place as many frames show it: the one whose shadows, each as its frame's f-number makes it,
 * leave the least variation in all of them when they are undone. {@link createVariation} tells the method.
 *
 * @param views those that show the most first
 * @param place a rough place in sensor pixels; its radius may be off by a half
 * @returns null where a rough look already shows that there is none
 */
export function fitParticle(
  views: readonly FrameView[],
  place: { readonly x: number; readonly y: number; readonly r: number },
): FittedParticle | null {
  const numbers = views.map(({ fNumber }) => fNumber ?? REFERENCE_F).sort((a, b) => a - b);
  // The rim that was found is about that of the middle f-number.
  const widen = (numbers[numbers.length >> 1] ?? REFERENCE_F) / REFERENCE_F;
  const centre = SPREAD.centre * place.r + 0.3;
  const prior: VeilPrior = {
    expected: Float64Array.from([
      ...[place.x, place.y, Math.log(place.r), Math.log(USUAL.softness * place.r * widen), 0, 0, USUAL.depth],
    ]),
    spread: Float64Array.from([
      ...[centre, centre, SPREAD.logRadius, SPREAD.logSoftness, SPREAD.shear, SPREAD.shear, SPREAD.depth],
    ]),
  };
  const descend = (looks: readonly Look[], start: Float64Array, free: readonly number[], rounds: number) =>
    levenberg(
      start,
      (point) => describeAll(looks, point, free, prior),
      (point, step) => advance(point, step, free),
      { rounds, leastGain: 0.01 },
    );
  const evidenceOf = (looks: readonly Look[], point: Float64Array): number[] =>
    looks.map((look) => -look.describe(shadowPoint(point, look.fNumber).veil, []).cost);
  const all = looksAt(views, place.r, ROUGH_RADIUS);
  const rough = all.slice(0, ROUGH_VIEWS);
  const tried = STARTS.map(({ factor, softness }) => {
    const start = prior.expected.slice();
    start[P.logRadius] += Math.log(factor);
    start[P.logBorder] = Math.log(softness * factor * place.r * widen);
    return descend(rough, start, [P.depth], 2);
  }).sort((a, b) => a.cost - b.cost);
  const best = tried
    .slice(0, 2)
    .map(({ point }) => descend(rough, point, ROUND, 8))
    .reduce((a, b) => (b.cost < a.cost ? b : a));
  const hope = evidenceOf(all, best.point).reduce((sum, one) => sum + Math.min(MOST_HOPE, one), 0);
  if (hope < HOPELESS + HOPELESS_PER_VIEW * views.length) return null;
  const fine = looksAt(views, place.r, FINE_RADIUS);
  const { point } = descend(fine, best.point, OVAL, 15);
  const own = fine.map((look) => ownDepth(look, point));
  return {
    particle: particleFrom(point),
    evidence: own.map(({ evidence }) => evidence),
    depths: own.map(({ depth, error }) => ({ depth, error })),
  };
}
