import { copyFile, mkdir, writeFile } from 'node:fs/promises';
import { dirname } from 'node:path';
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
import { EXAMINE_DEFAULTS, examinePicture, leastConfidence } from '@fennip/core/examine';
import { logistic } from '@fennip/core/solve';
import type { Witness } from '@fennip/core/witness';
import { lookAtPicture } from '@fennip/core/witness';
import { pixelsOf } from '@fennip/core/raster';
import { WITNESS_FILE, startWitness } from '@fennip/witness';
import type { BreadthCase } from '../breadth.ts';
import { breadthCases, judgeSpecks } from '../breadth.ts';
import { SPOT_KINDS } from '../damage.ts';
import { f1Of } from '../find.ts';
import { onLines } from '../onLines.ts';
import type { Row } from '../report.ts';
import { printTable } from '../report.ts';
import { AT_A_GLANCE } from '../standsOut.ts';
import type { BoostOptions } from './boost.ts';
import { BOOST_DEFAULTS, boost } from './boost.ts';
import { calibrate } from './calibrate.ts';

const CORE = new URL('../../../packages/core/src/examine/witness/', import.meta.url);
/** The net that was trained last; it goes into the tree with the forests that were trained for it. */
const NET = fileURLToPath(new URL('../../../.fennip/net/model/witness.onnx', import.meta.url));
/** Few traits that go together need few small trees. */
const OPTIONS: BoostOptions = { ...BOOST_DEFAULTS, trees: 120, depth: 4, rate: 0.08, leastLeaf: 12 };
const FINDER = SPECK_WITNESS_TRAITS.indexOf('finder');
const HEAT = SPECK_WITNESS_TRAITS.indexOf('heat');
/** Photographs are left out in turn in so many groups. */
const FOLDS = 5;

/** A picture that candidates come from. */
interface Scene {
  readonly photograph: string;
  readonly family: BreadthCase['family'];
  /** Specks on it that stand out. */
  readonly laid: number;
  readonly megapixels: number;
}

interface Rows {
  readonly traits: Float64Array[];
  readonly labels: number[];
  readonly scenes: Scene[];
}
const noRows = (): Rows => ({ traits: [], labels: [], scenes: [] });

/** Candidates of a case with what both know of them, and whether they are faults. */
async function gather(each: BreadthCase, witness: Witness, specks: Rows, lines: Rows): Promise<Scene> {
  const scene: Scene = {
    ...{ photograph: each.photograph, family: each.family },
    laid: each.faults.filter(({ stands, path }) => !path && stands >= AT_A_GLANCE).length,
    megapixels: (each.seen.width * each.seen.height) / 1e6,
  };
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
      .map(({ fault, traits }) => ({
        ...fault,
        confidence: logistic(traits[FINDER] + traits[HEAT]),
        of: fault,
      }))
      .sort((a, b) => b.confidence - a.confidence);
    const judged = judgeSpecks(sorted, each.faults);
    for (const { isFault, of } of judged) {
      const traits = traitsOf.get(of.of);
      if (!traits) continue;
      specks.traits.push(traits);
      specks.labels.push(Number(isFault));
      specks.scenes.push(scene);
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
    lines.scenes.push(scene);
  }
  return scene;
}

/** Log-odds that forests give which never saw the photograph, as calibrated as the one that is written. */
interface Judged {
  readonly forest: Forest;
  readonly scores: readonly number[];
}

/** A forest that weighs both against one another, calibrated on photographs left out in turn. */
function trained(names: readonly string[], { traits, labels, scenes }: Rows): Judged {
  const all = [...new Set(scenes.map(({ photograph }) => photograph))].sort();
  const folds = scenes.map(({ photograph }) => all.indexOf(photograph) % FOLDS);
  const scores = new Array<number>(labels.length).fill(0);
  for (let fold = 0; fold < FOLDS; fold++) {
    const pick = <T>(rows: readonly T[]): T[] => rows.filter((_, i) => folds[i] !== fold);
    const grown = growForest(boost(names, pick(traits), pick(labels), OPTIONS));
    const held = [...labels.keys()].filter((i) => folds[i] === fold);
    grown.scoreAll(held.map((i) => traits[i])).forEach((score, k) => (scores[held[k]] = score));
  }
  const calibration = calibrate(scores, labels);
  const { slope, offset } = calibration;
  console.log(
    `${labels.length} candidates, ${labels.filter((label) => label === 1).length} faults; a score counts ${slope.toFixed(2)} times, shifted by ${offset.toFixed(2)}`,
  );
  return {
    forest: { ...boost(names, traits, labels, OPTIONS), calibration },
    scores: scores.map((score) => slope * score + offset),
  };
}

/** Mean F1 by family at the default sensitivity, and false finds on clean pictures, by what each candidate is said to be. */
function report(
  title: string,
  { labels, scenes }: Rows,
  all: readonly Scene[],
  odds: readonly number[],
): void {
  const least = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
  const counts = new Map(all.map((scene) => [scene, { found: 0, wrong: 0 }]));
  odds.forEach((score, i) => {
    const count = counts.get(scenes[i]);
    if (count && logistic(score) >= least) count[labels[i] === 1 ? 'found' : 'wrong']++;
  });
  const rows = SPOT_KINDS.map((family): Row => {
    const f1 = all
      .filter((scene) => scene.family === family)
      .map((scene) => f1Of(counts.get(scene)?.found ?? 0, counts.get(scene)?.wrong ?? 0, scene.laid));
    return [family, String(f1.length), f1.reduce((sum, value) => sum + value, 0) / f1.length];
  });
  const clean = all.filter(({ family }) => family === 'clean');
  const wrong = clean.reduce((sum, scene) => sum + (counts.get(scene)?.wrong ?? 0), 0);
  const megapixels = clean.reduce((sum, scene) => sum + scene.megapixels, 0);
  printTable(title, ['family', 'scenes', 'F1'], rows);
  console.log(
    `clean: ${(wrong / megapixels).toFixed(2)} a megapixel, none on ${clean.filter((scene) => counts.get(scene)?.wrong === 0).length} of ${clean.length}`,
  );
}

const started = await startWitness(availableParallelism(), NET);
if (!('witness' in started)) throw new Error(`no net to ask: ${started.missing}`);
const [specks, lines] = [noRows(), noRows()];
const scenes: Scene[] = [];
for (const seed of [100, 2000])
  for await (const each of breadthCases('validation', seed))
    scenes.push(await gather(each, started.witness, specks, lines));
const [speckWeights, lineWeights] = [
  trained(SPECK_WITNESS_TRAITS, specks),
  trained(LINE_WITNESS_TRAITS, lines),
];
report(
  'The finder alone, on validation photographs',
  specks,
  scenes,
  specks.traits.map((traits) => traits[FINDER]),
);
report('Finder and net, each photograph left out', specks, scenes, speckWeights.scores);
for (const [name, { forest }] of [
  ['speckWitnessForest.json', speckWeights],
  ['lineWitnessForest.json', lineWeights],
] as const)
  await writeFile(fileURLToPath(new URL(name, CORE)), `${JSON.stringify(forest)}\n`);
await mkdir(dirname(WITNESS_FILE), { recursive: true });
for (const ending of ['.onnx', '.check.json'])
  await copyFile(NET.replace('.onnx', ending), WITNESS_FILE.replace('.onnx', ending));
