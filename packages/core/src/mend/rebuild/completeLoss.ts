import { blendSeams } from './blendSeams.ts';
import type { CompletionLevel, Guiding, Loss } from './completionLevel.ts';
import { PATCH, UNGUIDED, completionLevels } from './completionLevel.ts';
import { matchPatches } from './matchPatches.ts';
import { patchCost } from './patchCost.ts';
import type { PatchField } from './patchField.ts';
import { emptyField, sourcePool } from './patchField.ts';
import { votePatches } from './votePatches.ts';

/** A loss filled so far. */
export interface Completion {
  /** Halvings that are still to be undone; 0 is the last answer. */
  readonly halvings: number;
  /** The size the answer comes in: that of the loss, halved so many times. */
  readonly width: number;
  readonly height: number;
  /** One plane for each channel, 0 to 255. */
  readonly colours: readonly Float32Array[];
  /** Mean cost of the patches that fill it, in squares of 255: how well the loss is explained by the rest. */
  readonly cost: number;
}

/** Rounds of matching and voting: many where it is cheap and all is open, few where only detail is left. */
const ROUNDS = { coarsest: 14, middle: 7, finest: 3 };
/** Sweeps of matching in a round, and where there is no field to start from. */
const SWEEPS = 2;
const FIRST_SWEEPS = 8;
/** On so many of the finest levels sources come from a coarser one, and better ones lie near by: so far is looked. */
const REFINED = 2;
const REFINED_REACH = 16;
/** A round that changes less than this, of 255, is the last of its level. */
const SETTLED = 0.15;

/** So many sources every target begins with: the better the start, the sooner neighbours find one that goes on. */
const USUAL_TRIES = 24;

const lostPixels = ({ lost }: CompletionLevel): Int32Array =>
  Int32Array.from(lost.keys()).filter((i) => lost[i] === 1);

interface Work {
  readonly level: CompletionLevel;
  readonly field: PatchField;
  readonly matcher: ReturnType<typeof patchCost>;
  readonly pool: ReturnType<typeof sourcePool>;
  readonly reach: number;
}

const workOn = (level: CompletionLevel, seed: number, isFirst: boolean, tries: number): Work => ({
  ...{ level, field: emptyField(level), matcher: patchCost(level) },
  reach: isFirst || level.halvings >= REFINED ? Math.max(level.width, level.height) : REFINED_REACH,
  pool: sourcePool(level, seed + level.halvings, tries),
});

/** What is lost is as rough as what lies around it, until its source tells more. */
function expectRoughness({ width, there, roughX, roughY }: CompletionLevel, ring: Int32Array): void {
  for (const i of ring) {
    let [across, down, count] = [0, 0, 0];
    for (let dy = -PATCH; dy <= PATCH; dy++)
      for (let dx = -PATCH; dx <= PATCH; dx++) {
        const at = i + dy * width + dx;
        if (!there[at]) continue;
        across += roughX[at];
        down += roughY[at];
        count++;
      }
    if (count === 0) continue;
    roughX[i] = across / count;
    roughY[i] = down / count;
  }
}

/** The start: layer by layer from the border inwards, each from what is known or was filled before (onion peel). */
function peelIn({ level, field, matcher, pool, reach }: Work): void {
  const { depth, there, isWhole } = level;
  const pixels = lostPixels(level);
  const deepest = pixels.reduce((most, i) => Math.max(most, depth[i]), 0);
  // While it is filled no patch is whole.
  const whole = isWhole.slice();
  isWhole.fill(0);
  for (let layer = 1; layer <= Math.ceil(deepest); layer++) {
    const ring = pixels.filter((i) => depth[i] > layer - 1 && depth[i] <= layer);
    expectRoughness(level, ring);
    for (let sweep = 0; sweep < FIRST_SWEEPS; sweep++) matchPatches(level, field, matcher, pool, ring, reach);
    votePatches(level, field, matcher, ring, 'weighted');
    for (const i of ring) there[i] = 1;
  }
  isWhole.set(whole);
}

/** Takes over the sources of the coarser level, and fills with them. */
function refineFrom(coarse: Work, { level, field, matcher, pool }: Work): void {
  for (const target of level.targets) {
    const y = Math.floor(target / level.width) - PATCH;
    const x = target - (y + PATCH) * level.width - PATCH;
    const above = ((y >> 1) + PATCH) * coarse.level.width + (x >> 1) + PATCH;
    const source = coarse.field.from[above];
    if (source < 0) continue;
    const sourceY = Math.floor(source / coarse.level.width) - PATCH;
    const sourceX = source - (sourceY + PATCH) * coarse.level.width - PATCH;
    const finer = (2 * sourceY + (y & 1) + PATCH) * level.width + 2 * sourceX + (x & 1) + PATCH;
    field.from[target] = level.isSource[finer] ? finer : pool.draw();
    field.cost[target] = coarse.field.cost[above];
  }
  votePatches(level, field, matcher, lostPixels(level), 'sharp');
  for (const i of lostPixels(level)) level.there[i] = 1;
}

/** Costs of the field as the level is filled now. */
function reprice({ level, field, matcher }: Work): void {
  matcher.refresh();
  for (const target of level.targets)
    if (field.from[target] >= 0) field.cost[target] = matcher.cost(target, field.from[target], Infinity);
}

function settle(work: Work, rounds: number): void {
  const { level, field, matcher, pool, reach } = work;
  const pixels = lostPixels(level);
  for (let round = 0; round < rounds; round++) {
    reprice(work);
    for (let sweep = 0; sweep < SWEEPS; sweep++)
      matchPatches(level, field, matcher, pool, level.targets, reach);
    if (votePatches(level, field, matcher, pixels, 'sharp') < SETTLED) return;
  }
}

function answerOf({ level, field }: Work): Completion {
  const [width, height] = [level.width - 2 * PATCH, level.height - 2 * PATCH];
  const colours = Array.from({ length: level.channels }, (_, c) => {
    const plane = new Float32Array(width * height);
    for (let y = 0, i = 0; y < height; y++)
      for (let x = 0; x < width; x++, i++)
        plane[i] = level.colours[((y + PATCH) * level.width + x + PATCH) * level.channels + c];
    return plane;
  });
  const cost = level.targets.reduce((sum, target) => sum + field.cost[target], 0) / level.targets.length;
  return { halvings: level.halvings, width, height, colours, cost };
}

function roundsOn({ halvings }: CompletionLevel, isCoarsest: boolean): number {
  if (isCoarsest) return ROUNDS.coarsest;
  return halvings > 0 ? ROUNDS.middle : ROUNDS.finest;
}

/**
 * Fills a loss from the rest of the picture: every patch over it becomes like some patch of the rest, and the patches
 * agree with one another, from coarse to fine. The same seed gives the same answer, another seed another one.
 * (Wexler, Shechtman, Irani 2007; Barnes et al. 2009; Newson et al. 2014 and 2017.)
 *
 * @param tries how many sources every target begins with, drawn at random
 * @yields an answer for each level, the coarsest first; none where no patch may be taken from anywhere
 */
export function* completeLoss(
  loss: Loss,
  seed: number,
  guiding: Guiding = UNGUIDED,
  tries = USUAL_TRIES,
): Generator<Completion, void> {
  let coarse: Work | null = null;
  for (const level of completionLevels(loss, guiding)) {
    const work = workOn(level, seed, coarse === null, tries);
    if (work.pool.count === 0) {
      // Halved, too little may be left to take from; a finer level starts by itself then.
      if (level.halvings === 0) return;
      continue;
    }
    if (coarse) refineFrom(coarse, work);
    else peelIn(work);
    settle(work, roundsOn(level, coarse === null));
    coarse = work;
    if (level.halvings === 0) blendSeams(level, work.field.taken, lostPixels(level));
    yield answerOf(work);
  }
}
