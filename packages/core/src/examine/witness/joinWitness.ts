import type { Fault } from '../../fault/fault.ts';
import { lumaPlane } from '../../raster/float.ts';
import type { Pixels } from '../../raster/pixels.ts';
import { pictureRect } from '../../raster/window.ts';
import { logistic } from '../../solve/logistic.ts';
import type { GrownForest } from '../classify/forest.ts';
import { growForest } from '../classify/forest.ts';
import type { PictureNature } from '../nature/nature.ts';
import { outsideAreas } from '../areas/keepAreas.ts';
import { keepLines, specksOffLines } from '../lines/keepLines.ts';
import { ranked } from '../ranked.ts';
import { keepStrongest } from '../specks/keepStrongest.ts';
import { bestShapes } from './bestShapes.ts';
import lineForest from './lineWitnessForest.json' with { type: 'json' };
import { jointLines } from './jointLines.ts';
import speckForest from './speckWitnessForest.json' with { type: 'json' };
import { jointSpecks } from './jointSpecks.ts';
import type { WitnessedPicture } from './witnessedPicture.ts';
import type { WitnessMaps } from './witnessMaps.ts';

/** What weighs the finder and the net against one another. */
export interface JoiningForests {
  readonly specks: GrownForest;
  readonly lines: GrownForest;
}

const TRAINED: JoiningForests = { specks: growForest(speckForest), lines: growForest(lineForest) };

/**
 * Findings of the finders with what a net says of the same picture: each is as sure as both together make it, and what
 * only the net sees is among them.
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
  const { raster } = pixels.window(pictureRect(pixels.shape));
  const picture: WitnessedPicture = { nature, raster, luma: lumaPlane(raster), maps };
  const joint = jointSpecks(
    findings.filter(({ kind }) => kind === 'speck'),
    picture,
  );
  const scores = speckScores.scoreAll(joint.map(({ traits }) => traits));
  const specks = joint.map(({ fault }, k) => ({
    ...fault,
    ...{ fit: fault.strength, score: scores[k], confidence: logistic(scores[k]) },
  }));
  const lines = jointLines(
    findings.filter(({ path }) => path !== undefined),
    picture,
  );
  const lineScored = lineScores.scoreAll(lines.map(({ traits }) => traits));
  const others = findings.filter(({ kind, path }) => kind !== 'speck' && path === undefined);
  const keptLines = keepLines(
    bestShapes(
      lines.map(({ fault, isMeasured }, k) => ({
        fault: { ...fault, confidence: logistic(lineScored[k]) },
        isMeasured,
      })),
    ),
  );
  // What is left lies on nothing surer, as with the finders alone.
  const offLines = specksOffLines(keepStrongest(specks), keptLines);
  return ranked([...others, ...outsideAreas([...keptLines, ...offLines], others)]);
}
