import { writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import type { Calibration, Forest, PictureNature } from '@fennip/core';
import {
  AREA_TRAITS,
  LINE_TRAITS,
  PARTICLE_TRAITS,
  SPECK_TRAITS,
  VEIL_TRAITS,
  growForest,
  logOdds,
  saidAgainstOwn,
  trustIn,
} from '@fennip/core';
import { printTable } from '../report.ts';
import { areaSamples, keptAreas } from './areaSamples.ts';
import type { BoostOptions } from './boost.ts';
import { BOOST_DEFAULTS, boost } from './boost.ts';
import { calibrate } from './calibrate.ts';
import { closerSamples, ownShareCounts } from './closerSamples.ts';
import type { Examples, Kept } from './examples.ts';
import { noExamples } from './examples.ts';
import type { Ground } from './grounds.ts';
import { TRAINING_PHOTOGRAPHS, trainingGrounds } from './grounds.ts';
import { keptLines, lineSamples } from './lineSamples.ts';
import { logistic } from './logistic.ts';
import type { PlaceExamples } from './particleSamples.ts';
import { particleSamples } from './particleSamples.ts';
import { keptSpecks, speckSamples } from './speckSamples.ts';

const CORE = new URL('../../../packages/core/src/', import.meta.url);

/** How often each ground is taken: a print has one kind of specks, a frame two. */
const SPECK_ROUNDS = [
  ['print', 8],
  ['frame', 4],
] as const;

/** Few traits that go together need few small trees. */
const PARTICLE_OPTIONS: BoostOptions = { ...BOOST_DEFAULTS, trees: 120, depth: 3, rate: 0.1 };

/** A few hundred examples of eight traits. */
const CLOSER_OPTIONS: BoostOptions = { ...BOOST_DEFAULTS, trees: 100, depth: 3, rate: 0.07 };

/** Mean precision over all recalls: the area under the curve of precision against recall. */
function averagePrecision(scores: readonly number[], labels: readonly number[]): number {
  const order = [...scores.keys()].sort((a, b) => scores[b] - scores[a]);
  let [hits, sum] = [0, 0];
  order.forEach((row, rank) => {
    if (labels[row] === 0) return;
    hits++;
    sum += hits / (rank + 1);
  });
  return hits > 0 ? sum / hits : 0;
}

interface HeldOut {
  readonly photograph: string;
  readonly forest: Forest;
  readonly scores: readonly number[];
  readonly labels: readonly number[];
}

/** What a forest that never saw a photograph makes of it. */
function heldOut(
  names: readonly string[],
  { traits, labels, grounds }: Examples,
  photograph: string,
  options: BoostOptions,
): HeldOut {
  const isHeld = grounds.map((ground) => ground.photograph === photograph);
  const take = <T>(rows: readonly T[], held: boolean): T[] => rows.filter((_, i) => isHeld[i] === held);
  const forest = boost(names, take(traits, false), take(labels, false), options);
  return {
    photograph,
    forest,
    scores: [...growForest(forest).scoreAll(take(traits, true))],
    labels: take(labels, true),
  };
}

/**
 * Trains a forest on all examples. How sure it may be is learned from photographs that were left out in turn: on what
 * it has seen every forest is surer than it should be.
 */
function train(
  title: string,
  names: readonly string[],
  examples: Examples,
  options: BoostOptions = BOOST_DEFAULTS,
): Trained {
  const faults = examples.labels.filter((label) => label === 1).length;
  console.log(`\n${title}: ${examples.labels.length} candidates, ${faults} of them on faults`);
  const held = TRAINING_PHOTOGRAPHS.map((photograph) => heldOut(names, examples, photograph, options));
  const calibration = calibrate(
    held.flatMap(({ scores }) => scores),
    held.flatMap(({ labels }) => labels),
  );
  printTable(
    `${title}: average precision on photographs left out in turn`,
    ['photograph', 'candidates on faults', 'average precision'],
    held.map(({ photograph, scores, labels }) => [
      photograph,
      String(labels.filter((label) => label === 1).length),
      averagePrecision(scores, labels),
    ]),
  );
  console.log(
    `a score counts ${calibration.slope.toFixed(2)} times, shifted by ${calibration.offset.toFixed(2)}`,
  );
  return {
    forest: { ...boost(names, examples.traits, examples.labels, options), calibration },
    held: held.map(({ photograph, forest }) => ({ photograph, forest: { ...forest, calibration } })),
  };
}

/** A forest, and those that never saw a photograph. */
interface Trained {
  readonly forest: Forest;
  readonly held: readonly { readonly photograph: string; readonly forest: Forest }[];
}

/** What a forest keeps on pictures of some grounds. */
type Keeping = (forest: Forest, grounds: readonly Ground[]) => Kept[];

/** What is kept of photographs that each forest never saw. */
const keptElsewhere = (held: Trained['held'], keep: Keeping): Kept[] =>
  held.flatMap(({ photograph, forest }) =>
    keep(
      forest,
      grounds.filter((ground) => ground.photograph === photograph),
    ),
  );

/** How sure what is kept may be. */
function calibratedAsKept(kept: readonly Kept[]): Calibration {
  const calibration = calibrate(
    kept.map(({ confidence }) => logOdds(confidence)),
    kept.map(({ label }) => label),
  );
  const { slope, offset } = calibration;
  console.log(
    `a confidence of what is kept counts ${slope.toFixed(2)} times, shifted by ${offset.toFixed(2)}`,
  );
  return calibration;
}

function trainLines(): Forest {
  const { forest, held } = train('Lines', LINE_TRAITS, lineSamples(grounds, 2));
  const kept = keptElsewhere(held, ({ share, ...one }, on) =>
    keptLines(growForest({ share, ...one }), share, on),
  );
  return { ...forest, kept: calibratedAsKept(kept) };
}

function trainAreas(): Forest {
  const { forest, held } = train('Areas', AREA_TRAITS, areaSamples(grounds, 2));
  const kept = keptElsewhere(held, (one, on) => keptAreas(growForest(one), on));
  return { ...forest, kept: calibratedAsKept(kept) };
}

/** Frames and prints have specks of their own, and a forest each. */
function trainSpecks(nature: PictureNature, rounds: number): Forest {
  const { forest, held } = train(
    `Specks of a ${nature}`,
    SPECK_TRAITS,
    speckSamples(grounds, rounds, nature),
  );
  const kept = keptElsewhere(held, (one, on) => keptSpecks(nature, growForest(one), one.share, on));
  return { ...forest, kept: calibratedAsKept(kept) };
}

/** How often each ground is taken for the forests whose doubtful specks are looked at more closely. */
const CLOSER_ROUNDS = 2;

/** Specks of frames that the finder leaves in doubt, told apart by what a veil in linear light explains of them. */
function trainCloserLook(): Forest & { readonly counts: number } {
  const specks = speckSamples(grounds, CLOSER_ROUNDS, 'frame');
  const first = train('Specks of a frame', SPECK_TRAITS, specks);
  const all = { ...noExamples(), groups: new Array<number>() };
  for (const { photograph, forest } of first.held) {
    const own = grounds.filter((ground) => ground.photograph === photograph);
    const { traits, labels, grounds: on, groups } = closerSamples(growForest(forest), forest.share, own);
    const before = all.groups.length === 0 ? 0 : Math.max(...all.groups) + 1;
    all.traits.push(...traits);
    all.labels.push(...labels);
    all.grounds.push(...on);
    all.groups.push(...groups.map((group) => before + group));
  }
  const { forest, held } = train('A closer look', VEIL_TRAITS, all, CLOSER_OPTIONS);
  const unseen = new Map(held.map((one) => [one.photograph, growForest(one.forest)]));
  const seen = growForest(forest);
  const scores = all.traits.map((traits, row) =>
    (unseen.get(all.grounds[row].photograph ?? '') ?? seen).score(traits),
  );
  const counts = ownShareCounts(scores, all, forest.share);
  console.log(`the own share of a picture's dark or bright ones counts ${counts}`);
  return { ...forest, counts };
}

/** What corrects a score by what frames say against their own chart; see `chart/dustChart.ts`. */
interface AgainstOwn {
  readonly offset: number;
  readonly score: number;
  readonly said: number;
}

/**
 * How much it counts that the frames of a chart say more for a place than for its others, from photographs that each
 * forest never saw.
 */
function weighedAgainstOwn(examples: PlaceExamples, { slope, offset }: Calibration): AgainstOwn {
  const scores = new Array<number>(examples.labels.length).fill(0);
  for (const photograph of TRAINING_PHOTOGRAPHS) {
    const held = heldOut(PARTICLE_TRAITS, examples, photograph, PARTICLE_OPTIONS);
    const rows = examples.grounds.flatMap((ground, i) => (ground.photograph === photograph ? [i] : []));
    rows.forEach((row, k) => (scores[row] = slope * held.scores[k] + offset));
  }
  const said = new Array<number>(scores.length).fill(0);
  const trust = new Array<number>(scores.length).fill(0);
  for (const sensor of new Set(examples.sensors)) {
    const rows = examples.sensors.flatMap((one, i) => (one === sensor ? [i] : []));
    const places = rows.map((row) => ({ score: scores[row], said: examples.said[row] }));
    saidAgainstOwn(places).forEach((more, k) => {
      said[rows[k]] = more;
      trust[rows[k]] = trustIn(rows.length);
    });
  }
  // Rendered grounds stand in no photograph's place and are always trained on.
  const told = scores.flatMap((_, i) => (examples.grounds[i].photograph === null ? [] : [i]));
  const [shift, score, more] = logistic(
    told.map((i) => [trust[i], trust[i] * scores[i], trust[i] * said[i]]),
    told.map((i) => examples.labels[i]),
    told.map((i) => scores[i]),
  );
  return { offset: shift, score, said: more };
}

async function write(forest: Forest & { readonly own?: AgainstOwn }, name: string): Promise<void> {
  await writeFile(fileURLToPath(new URL(name, CORE)), `${JSON.stringify(forest)}\n`);
}

const { values } = parseArgs({ options: { only: { type: 'string' } } });
const wanted = (name: string): boolean => values.only === undefined || values.only === name;
const grounds = await trainingGrounds();
for (const [nature, rounds] of SPECK_ROUNDS)
  if (wanted('specks') || wanted(`${nature} specks`))
    await write(trainSpecks(nature, rounds), `examine/specks/${nature}SpeckForest.json`);
if (wanted('closer look')) await write(trainCloserLook(), 'examine/specks/veilForest.json');
if (wanted('areas')) await write(trainAreas(), 'examine/areas/areaForest.json');
if (wanted('lines')) await write(trainLines(), 'examine/lines/lineForest.json');
if (wanted('particles')) {
  const examples = await particleSamples(grounds, 160);
  const { forest } = train('Particles', PARTICLE_TRAITS, examples, PARTICLE_OPTIONS);
  const own = weighedAgainstOwn(examples, forest.calibration);
  console.log(`with what frames say against their own chart: ${JSON.stringify(own)}`);
  await write({ ...forest, own }, 'chart/particleForest.json');
}
