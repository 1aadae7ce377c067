import { writeFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';
import type { Calibration, SpeckNet, Forest } from '@fennip/core/bench';
import type { PictureNature } from '@fennip/core/examine';
import {
  AREA_TRAITS,
  LINE_TRAITS,
  PARTICLE_TRAITS,
  SPECK_TRAITS,
  growForest,
  holdNet,
  logOdds,
  saidAgainstOwn,
  netInput,
  trustIn,
} from '@fennip/core/bench';
import { mulberry } from '@fennip/core/random';
import { printTable } from '../report.ts';
import { areaSamples, keptAreas } from './areaSamples.ts';
import type { BoostOptions } from './boost.ts';
import { BOOST_DEFAULTS, boost } from './boost.ts';
import { calibrate } from './calibrate.ts';
import type { CloserExample } from './closerSamples.ts';
import { closerSamples } from './closerSamples.ts';
import type { Examples, Kept } from './examples.ts';
import type { Ground } from './grounds.ts';
import { TRAINING_PHOTOGRAPHS, broadGrounds, trainingGrounds } from './grounds.ts';
import { keptLines, lineSamples } from './lineSamples.ts';
import { logisticRegression } from './logisticRegression.ts';
import type { PlaceExamples } from './particleSamples.ts';
import { particleSamples } from './particleSamples.ts';
import { keptSpecks, speckSamples } from './speckSamples.ts';
import type { LookExample } from './teach.ts';
import { TEACH_DEFAULTS, teach } from './teach.ts';

const CORE = new URL('../../../packages/core/src/', import.meta.url);

/** How often each ground is taken: a print has one kind of specks, a frame two. */
const SPECK_ROUNDS = [
  ['print', 8],
  ['frame', 4],
] as const;

/** Few traits that go together need few small trees. */
const PARTICLE_OPTIONS: BoostOptions = { ...BOOST_DEFAULTS, trees: 120, depth: 3, rate: 0.1 };

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
  readonly photographs: readonly string[];
  readonly forest: Forest;
  readonly scores: readonly number[];
  readonly labels: readonly number[];
}

/** What a forest that never saw some photographs makes of them. */
function heldOut(
  names: readonly string[],
  { traits, labels, grounds }: Examples,
  photographs: readonly string[],
  options: BoostOptions,
): HeldOut {
  const isHeld = grounds.map(({ photograph }) => photograph !== null && photographs.includes(photograph));
  const take = <T>(rows: readonly T[], held: boolean): T[] => rows.filter((_, i) => isHeld[i] === held);
  const forest = boost(names, take(traits, false), take(labels, false), options);
  return {
    photographs,
    forest,
    scores: [...growForest(forest).scoreAll(take(traits, true))],
    labels: take(labels, true),
  };
}

/** Photographs are left out in turn in at most so many groups. */
const FOLDS = 5;

/** The photographs that examples come from, in groups that are left out in turn. */
function foldsOf({ grounds }: Examples): string[][] {
  const names = [...new Set(grounds.flatMap(({ photograph }) => photograph ?? []))];
  const count = Math.min(FOLDS, names.length);
  return Array.from({ length: count }, (_, fold) => names.filter((_, k) => k % count === fold));
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
  const held = foldsOf(examples).map((photographs) => heldOut(names, examples, photographs, options));
  const calibration = calibrate(
    held.flatMap(({ scores }) => scores),
    held.flatMap(({ labels }) => labels),
  );
  printTable(
    `${title}: average precision on photographs left out in turn`,
    ['photographs', 'candidates on faults', 'average precision'],
    held.map(({ photographs, scores, labels }) => [
      photographs.length === 1 ? photographs[0] : `${photographs.length}, ${photographs[0]} the first`,
      String(labels.filter((label) => label === 1).length),
      averagePrecision(scores, labels),
    ]),
  );
  console.log(
    `a score counts ${calibration.slope.toFixed(2)} times, shifted by ${calibration.offset.toFixed(2)}`,
  );
  return {
    forest: { ...boost(names, examples.traits, examples.labels, options), calibration },
    held: held.map(({ photographs, forest }) => ({ photographs, forest: { ...forest, calibration } })),
  };
}

/** A forest, and those that never saw a photograph. */
interface Trained {
  readonly forest: Forest;
  readonly held: readonly { readonly photographs: readonly string[]; readonly forest: Forest }[];
}

/** What a forest keeps on pictures of some grounds. */
type Keeping = (forest: Forest, grounds: readonly Ground[]) => Kept[];

/** What is kept of photographs that each forest never saw. */
const keptElsewhere = (held: Trained['held'], all: readonly Ground[], keep: Keeping): Kept[] =>
  held.flatMap(({ photographs, forest }) =>
    keep(
      forest,
      all.filter(({ photograph }) => photograph !== null && photographs.includes(photograph)),
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
  const kept = keptElsewhere(held, grounds, ({ share, ...one }, on) =>
    keptLines(growForest({ share, ...one }), share, on),
  );
  return { ...forest, kept: calibratedAsKept(kept) };
}

async function trainAreas(): Promise<Forest> {
  // What a photograph shows of its own, windows, petals, lit leaves, is more various than three of them.
  const all = [...grounds, ...(await broadGrounds())];
  const { forest, held } = train('Areas', AREA_TRAITS, areaSamples(all, 1));
  const kept = keptElsewhere(held, all, (one, on) => keptAreas(growForest(one), on));
  return { ...forest, kept: calibratedAsKept(kept) };
}

/** Frames and prints have specks of their own, and a forest each. */
function trainSpecks(nature: PictureNature, rounds: number): Forest {
  const { forest, held } = train(
    `Specks of a ${nature}`,
    SPECK_TRAITS,
    speckSamples(grounds, rounds, nature),
  );
  const kept = keptElsewhere(held, grounds, (one, on) => keptSpecks(nature, growForest(one), one.share, on));
  return { ...forest, kept: calibratedAsKept(kept) };
}

/** How often each ground is taken for the forests whose doubtful specks are looked at more closely. */
const CLOSER_ROUNDS = 2;
/** Examples of a photograph, or of all rendered grounds, of each label: no picture is to outweigh all others. */
const MOST_WRONG = 3000;
const MOST_FAULTS = 1500;
/** Digits of a net's numbers: more change nothing. */
const DIGITS = 4;

/** Some of many, drawn by chance. */
const some = <T>(all: readonly T[], most: number, uniform: () => number): T[] =>
  all.filter(() => uniform() < most / all.length);

const tellRound = (round: number, loss: number): void => {
  console.log(`round ${round}: loss ${loss.toFixed(3)}`);
};

/** Specks of frames that the finder leaves in doubt, known apart by a small net that is shown each with its surroundings. */
async function trainCloserLook(): Promise<SpeckNet> {
  const specks = speckSamples(grounds, CLOSER_ROUNDS, 'frame');
  const { held } = train('Specks of a frame', SPECK_TRAITS, specks);
  const uniform = mulberry(41);
  const all: CloserExample[] = [];
  // Rendered grounds are those that every forest has seen.
  for (const [seed, photograph] of [...TRAINING_PHOTOGRAPHS, null].entries()) {
    const { forest } =
      held.find(({ photographs }) => photograph !== null && photographs.includes(photograph)) ?? held[0];
    const own = grounds.filter((ground) => ground.photograph === photograph);
    const examples = await closerSamples(growForest(forest), forest.share, own, seed);
    const [wrong, faults] = [0, 1].map((wanted) => examples.filter(({ label }) => label === wanted));
    all.push(...some(wrong, MOST_WRONG, uniform), ...some(faults, MOST_FAULTS, uniform));
    console.log(
      `${photograph ?? 'rendered grounds'}: ${wrong.length} doubtful places, ${faults.length} faults`,
    );
  }
  const weighed = weighedByGround(all);
  const seen = TRAINING_PHOTOGRAPHS.flatMap((photograph, k) => {
    const numbers = teach(
      weighed.filter(({ ground }) => ground.photograph !== photograph),
      51 + k,
      TEACH_DEFAULTS,
      tellRound,
    );
    const own = all.filter(({ ground }) => ground.photograph === photograph);
    const scores = holdNet(numbers, ({ judge }) =>
      own.map(({ light, speck }) => {
        const { values, features } = netInput(light, speck);
        return judge(values, features).score;
      }),
    );
    const labels = own.map(({ label }) => label);
    const before = own.map(({ speck }) => logOdds(speck.confidence));
    const both = before.map((odds, i) => odds + scores[i]);
    const precisions = [before, scores, both].map((by) => averagePrecision(by, labels).toFixed(3));
    console.log(`${photograph}: average precision by finder, net, both ${precisions.join(', ')}`);
    return own.map((example, i) => ({ example, score: scores[i] }));
  });
  const calibration = calibrate(
    seen.map(({ score }) => score),
    seen.map(({ example }) => example.label),
  );
  console.log(
    `a score counts ${calibration.slope.toFixed(2)} times, shifted by ${calibration.offset.toFixed(2)}`,
  );
  const numbers = [...teach(weighed, 50, TEACH_DEFAULTS, tellRound)].map((value) =>
    Number(value.toPrecision(DIGITS)),
  );
  return { calibration, numbers };
}

/** Examples so weighed that a ground with many of them counts more than one with few, but not by as much. */
function weighedByGround(examples: readonly CloserExample[]): (CloserExample & LookExample)[] {
  const counted = new Map<string | null, number>();
  for (const { ground } of examples)
    counted.set(ground.photograph, (counted.get(ground.photograph) ?? 0) + 1);
  const weights = examples.map(({ ground }) => (counted.get(ground.photograph) ?? 1) ** -0.5);
  const mean = weights.reduce((sum, weight) => sum + weight, 0) / weights.length;
  return examples.map((example, i) => ({ ...example, counts: weights[i] / mean }));
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
    const held = heldOut(PARTICLE_TRAITS, examples, [photograph], PARTICLE_OPTIONS);
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
  const known = scores.flatMap((_, i) => (examples.grounds[i].photograph === null ? [] : [i]));
  const [shift, score, more] = logisticRegression(
    known.map((i) => [trust[i], trust[i] * scores[i], trust[i] * said[i]]),
    known.map((i) => examples.labels[i]),
    known.map((i) => scores[i]),
  );
  return { offset: shift, score, said: more };
}

async function write(
  trained: (Forest & { readonly own?: AgainstOwn }) | SpeckNet,
  name: string,
): Promise<void> {
  await writeFile(fileURLToPath(new URL(name, CORE)), `${JSON.stringify(trained)}\n`);
}

const { values } = parseArgs({ options: { only: { type: 'string' } } });
const wanted = (name: string): boolean => values.only === undefined || values.only === name;
const grounds = await trainingGrounds();
for (const [nature, rounds] of SPECK_ROUNDS)
  if (wanted('specks') || wanted(`${nature} specks`))
    await write(trainSpecks(nature, rounds), `examine/specks/${nature}SpeckForest.json`);
if (wanted('closer look')) await write(await trainCloserLook(), 'examine/specks/speckNet.json');
if (wanted('areas')) await write(await trainAreas(), 'examine/areas/areaForest.json');
if (wanted('lines')) await write(trainLines(), 'examine/lines/lineForest.json');
if (wanted('particles')) {
  const examples = await particleSamples(grounds, 160);
  const { forest } = train('Particles', PARTICLE_TRAITS, examples, PARTICLE_OPTIONS);
  const own = weighedAgainstOwn(examples, forest.calibration);
  console.log(`with what frames say against their own chart: ${JSON.stringify(own)}`);
  await write({ ...forest, own }, 'chart/particleForest.json');
}
