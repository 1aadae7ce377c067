import { writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { availableParallelism } from 'node:os';
import type { Forest } from '@fennip/core/bench';
import {
  LINE_WITNESS_TRAITS,
  SPECK_WITNESS_TRAITS,
  growForest,
  jointSpecks,
  lineWitnessTraits,
} from '@fennip/core/bench';
import { examinePicture, lookAtPicture } from '@fennip/core/examine';
import { logistic } from '@fennip/core/solve';
import type { Witness } from '@fennip/core/examine';
import { pixelsOf } from '@fennip/core/raster';
import { startWitness } from '@fennip/witness';
import type { BreadthCase } from '../breadth.ts';
import { breadthCases, judgeSpecks } from '../breadth.ts';
import { onLines } from '../onLines.ts';
import type { BoostOptions } from './boost.ts';
import { BOOST_DEFAULTS, boost } from './boost.ts';
import { calibrate } from './calibrate.ts';

const CORE = new URL('../../../packages/core/src/examine/witness/', import.meta.url);
/** Few traits that go together need few small trees. */
const OPTIONS: BoostOptions = { ...BOOST_DEFAULTS, trees: 120, depth: 4, rate: 0.08, leastLeaf: 12 };
/** Photographs are left out in turn in so many groups. */
const FOLDS = 5;

interface Rows {
  readonly traits: Float64Array[];
  readonly labels: number[];
  readonly photographs: string[];
}
const noRows = (): Rows => ({ traits: [], labels: [], photographs: [] });

/** Candidates of a case with what both know of them, and whether they are faults. */
async function gather(each: BreadthCase, witness: Witness, specks: Rows, lines: Rows): Promise<void> {
  const pixels = pixelsOf(each.seen);
  const maps = await lookAtPicture(pixels, witness);
  const found = examinePicture(pixels, { polarities: ['dark', 'bright'], sensitivity: 1 }, each.nature);
  const joint = jointSpecks(
    found.filter(({ kind }) => kind === 'speck'),
    maps,
    pixels,
    each.nature,
  );
  // Lines that were laid break up into specks that are none, and are no good examples either.
  if (each.family !== 'lines') {
    const traitsOf = new Map(joint.map(({ fault, traits }) => [fault, traits]));
    // Judged by what the net and the finder say together, so that the likelier of two on one fault is the one that counts.
    const sorted = joint
      .map(({ fault, traits }) => ({ ...fault, confidence: logistic(traits[6] + traits[7]), of: fault }))
      .sort((a, b) => b.confidence - a.confidence);
    const judged = judgeSpecks(sorted, each.faults);
    for (const { isFault, of } of judged) {
      const traits = traitsOf.get(of.of);
      if (!traits) continue;
      specks.traits.push(traits);
      specks.labels.push(Number(isFault));
      specks.photographs.push(each.photograph);
    }
  }
  const laid = each.faults.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, r }] : []));
  const truth = onLines(
    laid,
    laid.map(({ r }) => r),
  );
  for (const line of found) {
    if (!line.path) continue;
    lines.traits.push(lineWitnessTraits(line, maps, each.nature));
    lines.labels.push(
      laid.length > 0 && truth.shareOf({ path: line.path, polarity: line.polarity }) >= 0.5 ? 1 : 0,
    );
    lines.photographs.push(each.photograph);
  }
}

/** A forest that weighs both against one another, calibrated on photographs left out. */
function trained(names: readonly string[], { traits, labels, photographs }: Rows): Forest {
  const all = [...new Set(photographs)].sort();
  const foldOf = (photograph: string): number => all.indexOf(photograph) % FOLDS;
  const scores = new Array<number>(labels.length).fill(0);
  for (let fold = 0; fold < FOLDS; fold++) {
    const isHeld = photographs.map((photograph) => foldOf(photograph) === fold);
    const pick = <T>(rows: readonly T[]): T[] => rows.filter((_, i) => !isHeld[i]);
    const grown = growForest(boost(names, pick(traits), pick(labels), OPTIONS));
    const held = [...labels.keys()].filter((i) => isHeld[i]);
    grown.scoreAll(held.map((i) => traits[i])).forEach((score, k) => (scores[held[k]] = score));
  }
  const calibration = calibrate(scores, labels);
  console.log(
    `${labels.length} candidates, ${labels.filter((label) => label === 1).length} faults; a score counts ${calibration.slope.toFixed(2)} times, shifted by ${calibration.offset.toFixed(2)}`,
  );
  return { ...boost(names, traits, labels, OPTIONS), calibration };
}

const started = await startWitness(availableParallelism());
if (!('witness' in started)) throw new Error(`no net to ask: ${started.missing}`);
const [specks, lines] = [noRows(), noRows()];
for (const seed of [100, 2000])
  for await (const each of breadthCases('validation', seed))
    await gather(each, started.witness, specks, lines);
for (const [name, names, rows] of [
  ['speckWitnessForest.json', SPECK_WITNESS_TRAITS, specks],
  ['lineWitnessForest.json', LINE_WITNESS_TRAITS, lines],
] as const)
  await writeFile(fileURLToPath(new URL(name, CORE)), `${JSON.stringify(trained(names, rows))}\n`);
