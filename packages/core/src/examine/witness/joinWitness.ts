import type { Fault } from '../../fault/fault.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { logistic } from '../../solve/logistic.ts';
import type { GrownForest } from '../classify/forest.ts';
import { growForest } from '../classify/forest.ts';
import type { PictureNature } from '../nature/nature.ts';
import { ranked } from '../ranked.ts';
import { keepStrongest } from '../specks/keepStrongest.ts';
import lineForest from './lineWitnessForest.json' with { type: 'json' };
import { lineWitnessTraits } from './lineWitness.ts';
import speckForest from './speckWitnessForest.json' with { type: 'json' };
import { jointSpecks } from './speckWitness.ts';
import type { WitnessMaps } from './witnessMaps.ts';

/** What weighs the finder and the net against one another. */
export interface JoiningForests {
  readonly specks: GrownForest;
  readonly lines: GrownForest;
}

const TRAINED: JoiningForests = { specks: growForest(speckForest), lines: growForest(lineForest) };

/**
 * Findings of the finders with what a net says of the same picture: each is as sure as both together make it, and specks that
 * only the net sees are among them.
 *
 * @param findings of the whole picture, with nothing decided
 * @param maps of the net, of the same pixels
 * @returns surest first
 */
export function joinWitness(
  findings: readonly Fault[],
  maps: WitnessMaps,
  pixels: Pixels,
  nature: PictureNature,
  { specks: speckScores, lines: lineScores }: JoiningForests = TRAINED,
): Fault[] {
  const joint = jointSpecks(
    findings.filter(({ kind }) => kind === 'speck'),
    maps,
    pixels,
    nature,
  );
  const scores = speckScores.scoreAll(joint.map(({ traits }) => traits));
  const specks = joint.map(({ fault }, k) => ({
    ...fault,
    ...{ fit: fault.strength, score: scores[k], confidence: logistic(scores[k]) },
  }));
  const lines = findings.filter(({ path }) => path !== undefined);
  const lineScored = lineScores.scoreAll(lines.map((line) => lineWitnessTraits(line, maps, nature)));
  const others = findings.filter(({ kind, path }) => kind !== 'speck' && path === undefined);
  return ranked([
    ...others,
    ...lines.map((line, k) => ({ ...line, confidence: logistic(lineScored[k]) })),
    ...keepStrongest(specks),
  ]);
}
