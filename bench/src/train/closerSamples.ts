import type { GrownForest } from '@fennip/core';
import { VEIL_TRAITS, closerShift, doubtfulSpecks, pixelsOf, pooled, veilTraits } from '@fennip/core';
import { meetFindings } from '../find.ts';
import type { Examples } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { picturesWithSpecks, specksOn } from './speckSamples.ts';

/** Doubtful specks of many pictures, with the number of the group of each: those of one polarity on one picture. */
export interface CloserExamples extends Examples {
  readonly groups: number[];
}

/** How often each ground is taken, with either kind of specks. */
const ROUNDS = 6;

/** Doubtful specks on pictures of grounds that a forest never saw, each looked at more closely. */
export function closerSamples(
  forest: GrownForest,
  share: number,
  grounds: readonly Ground[],
): CloserExamples {
  const samples = { ...noExamples(), groups: new Array<number>() };
  picturesWithSpecks('frame', grounds, ROUNDS, 9000).forEach(({ ground, seen, laid }, picture) => {
    const pixels = pixelsOf(seen);
    const specks = specksOn(seen, 'frame', forest, share);
    const doubtful = new Set(doubtfulSpecks(specks, 'frame'));
    // All of them are met, the surest first; of those the doubtful ones are learned from.
    const met = meetFindings(specks, laid);
    specks.forEach((speck, k) => {
      if (!doubtful.has(speck) || met[k].is === 'again') return;
      samples.traits.push(Float64Array.from(veilTraits(speck, pixels)));
      samples.labels.push(met[k].is === 'found' ? 1 : 0);
      samples.grounds.push(ground);
      samples.groups.push(2 * picture + (speck.polarity === 'dark' ? 0 : 1));
    });
  });
  return samples;
}

const CONFIDENCE = VEIL_TRAITS.indexOf('confidence');
/** Weights of a group's own share that are tried. */
const STEPS = 10;

/**
 * How much a group's own share counts: of all weights the one under which the labels are likeliest, by what the finder and
 * a closer look say together.
 *
 * @param scores of forests that never saw the photograph of each
 */
export function ownShareCounts(
  scores: readonly number[],
  { traits, labels, groups }: Pick<CloserExamples, 'traits' | 'labels' | 'groups'>,
  share: number,
): number {
  const rows = new Map<number, number[]>();
  groups.forEach((group, row) => rows.set(group, [...(rows.get(group) ?? []), row]));
  const likelihoodOf = (counts: number): number =>
    [...rows.values()].reduce((sum, own) => {
      const shift = closerShift(
        own.map((row) => scores[row]),
        { share, counts },
      );
      return own.reduce((total, row) => {
        const odds = (labels[row] === 1 ? 1 : -1) * pooled(traits[row][CONFIDENCE], scores[row] + shift);
        return total - Math.log(1 + Math.exp(-odds));
      }, sum);
    }, 0);
  const weights = Array.from({ length: STEPS + 1 }, (_, k) => k / STEPS);
  return weights.reduce((best, one) => (likelihoodOf(one) > likelihoodOf(best) ? one : best));
}
