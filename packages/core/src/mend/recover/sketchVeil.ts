import type { Polarity } from '../../fault/fault.ts';
import { medianOf } from '../../measure/medianOf.ts';
import type { Window } from '../../raster/window.ts';
import { levenberg } from '../../solve/levenberg.ts';
import type { Variation, VeilPrior } from './leastVariation.ts';
import { createVariation } from './leastVariation.ts';
import type { LightPatch } from './lightPatch.ts';
import { greyLight, lightPatchOf, shrinkLight } from './lightPatch.ts';
import { AT, advanceVeil } from './veilParameters.ts';

/** Where a veil is looked for: a rough place, as a click or a finder gives it. */
export interface RoughPlace {
  readonly x: number;
  readonly y: number;
  /** In pixels; may be off by a third. */
  readonly r: number;
  /** Dark is a shadow; bright has light of its own. */
  readonly polarity: Polarity;
}

/** How far the fit looks around a place, in radii and in pixels. */
const REACH_RADII = 2.3;
const REACH_PIXELS = 4;

/** Half the side of the square that is looked at. */
export const fitReach = (r: number): number => Math.ceil(REACH_RADII * r + REACH_PIXELS);

/** Radius in samples at which a sketch is made. */
const ROUGH_RADIUS = 6;

/** What dust and lit particles usually are, and how far they depart from it: common practice, widened by trial. */
const SHADOW = { softness: 0.45, depth: 0.2, depthSpread: 0.12 };
const LIT = { softness: 0.3, depth: 0.5, depthSpread: 0.25 };
const SPREAD = { centre: 0.15, logRadius: 0.25, softness: 0.18, shear: 0.08, light: 0.6 };
const USUAL_LIGHT = 0.7;

export const SHAPE = [AT.x, AT.y, AT.logRadius, AT.softness, AT.depth];

/** Starts of the search: radii as multiples of the rough one, and what else may lie in several valleys. */
const SHADOW_STARTS = [0.75, 1, 1.3].flatMap((factor) =>
  [0.25, 0.6].map((softness) => ({ factor, softness, depth: SHADOW.depth })),
);
const LIT_STARTS = [0.8, 1.15].flatMap((factor) =>
  [0.25, 0.45, 0.65, 0.85].map((depth) => ({ factor, softness: LIT.softness, depth })),
);

/** How many of the starts are followed down. */
const MOST_VALLEYS = 2;

/** A round that gains less log likelihood than this is the last. */
const LEAST_GAIN = 0.01;

export interface Place {
  readonly point: Float64Array;
  readonly cost: number;
}

function priorAt({ x, y, r, polarity }: RoughPlace, channels: number): VeilPrior {
  const usual = polarity === 'dark' ? SHADOW : LIT;
  const lights = polarity === 'dark' ? [] : Array.from({ length: channels }, () => USUAL_LIGHT);
  const centre = SPREAD.centre * r + 0.3;
  const { logRadius, softness, shear } = SPREAD;
  return {
    expected: Float64Array.from([x, y, Math.log(r), usual.softness, 0, 0, usual.depth, ...lights]),
    spread: Float64Array.from([
      ...[centre, centre, logRadius, softness, shear, shear, usual.depthSpread],
      ...lights.map(() => SPREAD.light),
    ]),
  };
}

/** What is seen of a disc in one channel, in linear light. */
interface SeenLight {
  readonly core: number;
  readonly around: number;
}

/** Medians inside a disc and in the ring around it, for each channel. */
function seenLights(patch: LightPatch, { x, y, r }: RoughPlace): SeenLight[] {
  const { left, top, scale, width, height, planes } = patch;
  const [inside, aside]: number[][] = [[], []];
  for (let row = 0, i = 0; row < height; row++)
    for (let column = 0; column < width; column++, i++) {
      const away = Math.hypot(left + (column + 0.5) * scale - x, top + (row + 0.5) * scale - y) / r;
      if (away < 0.6) inside.push(i);
      else if (away > 1.6 && away < 2.2) aside.push(i);
    }
  return planes.map((plane) => ({
    core: medianOf(inside.map((i) => plane[i])),
    around: medianOf(aside.map((i) => plane[i])),
  }));
}

/** The light that would lift the ring around a disc to what is seen inside, for each channel. */
const lightFor = (seen: readonly SeenLight[], depth: number): number[] =>
  seen.map(({ core, around }) => Math.max(0.02, around + (core - around) / depth));

export const descend = (
  variation: Variation,
  start: Float64Array,
  free: readonly number[],
  rounds: number,
): Place =>
  levenberg(
    start,
    (point) => variation.describe(point, free),
    (point, step) => advanceVeil(point, step, free),
    { rounds, leastGain: LEAST_GAIN },
  );

/** A veil as it is found on a shrunk patch. */
export interface VeilSketch {
  /** The patch at full size: of a shadow its grey, as it dims all channels alike. */
  readonly patch: LightPatch;
  readonly prior: VeilPrior;
  /** Which parameters are the light of its own. */
  readonly lights: readonly number[];
  readonly point: Float64Array;
  /** How much more likely the shrunk patch is with the veil undone, in units of log likelihood; below 0 there is none. */
  readonly evidence: number;
}

/**
 * Looks for a veil at a rough place on a patch that is shrunk until its radius is a few samples: the disc that, undone in
 * linear light, leaves the least variation. {@link createVariation} tells the method.
 *
 * @param window pixels around the place, best {@link fitReach} on all sides
 * @param unknown pixels of the window that belong to other faults and say nothing, row after row
 */
export function sketchVeil(window: Window, place: RoughPlace, unknown?: Uint8Array): VeilSketch {
  const full = lightPatchOf(window);
  if (unknown) for (let i = 0; i < unknown.length; i++) if (unknown[i]) full.known[i] = 0;
  const isShadow = place.polarity === 'dark';
  const patch = isShadow ? greyLight(full) : full;
  const prior = priorAt(place, patch.planes.length);
  const lights = isShadow ? [] : patch.planes.map((_, c) => AT.light + c);
  const small = shrinkLight(patch, place.r, ROUGH_RADIUS);
  const lit = isShadow ? [] : seenLights(small, place);
  const rough = createVariation(small, prior);
  const tried = (isShadow ? SHADOW_STARTS : LIT_STARTS).map(({ factor, softness, depth }): Place => {
    const start = prior.expected.slice();
    start[AT.logRadius] += Math.log(factor);
    start[AT.softness] = softness;
    start[AT.depth] = depth;
    if (!isShadow) start.set(lightFor(lit, depth), AT.light);
    return descend(rough, start, isShadow ? [AT.depth] : lights, 3);
  });
  const best = tried
    .sort((a, b) => a.cost - b.cost)
    .slice(0, MOST_VALLEYS)
    .map(({ point }) => descend(rough, point, [...SHAPE, ...lights], isShadow ? 5 : 7))
    .reduce((a, b) => (b.cost < a.cost ? b : a));
  return { patch, prior, lights, point: best.point, evidence: -best.cost };
}
