import type { Forest, JointLine, JointSpeck } from '@fennip/core/bench';
import {
  LINE_WITNESS_TRAITS,
  SPECK_WITNESS_TRAITS,
  boundedOdds,
  growForest,
  jointLines,
  jointSpecks,
} from '@fennip/core/bench';
import type { Fault } from '@fennip/core/fault';
import { lumaPlane, pixelsOf } from '@fennip/core/raster';
import { logistic } from '@fennip/core/solve';
import type { JoiningForests, WitnessMaps } from '@fennip/core/witness';
import { joinWitness } from '@fennip/core/witness';
import { judgeSpecks } from '../../judgeSpecks.ts';
import type { BoostOptions } from '../boost.ts';
import { BOOST_DEFAULTS, boost } from '../boost.ts';
import { calibrate } from '../calibrate.ts';
import type { JoiningScene } from './joiningScenes.ts';
import { shareOnLines } from './joiningScenes.ts';

/** A scene with what the finders and the net say of it. */
export interface SeenScene {
  readonly scene: JoiningScene;
  readonly found: readonly Fault[];
  readonly maps: WitnessMaps;
}

/** Rows of traits with what each is, and how many rows each stands for. */
interface Rows {
  readonly traits: Float64Array[];
  readonly labels: number[];
  readonly weights: number[];
}

/** A finding that is kept, how sure it is, and whether it is a fault. */
export interface Kept {
  readonly fault: Fault;
  readonly isFault: boolean;
}

/** Few traits that go together need few small trees. */
const OPTIONS: BoostOptions = { ...BOOST_DEFAULTS, trees: 220, depth: 5, rate: 0.06, leastLeaf: 4 };
const SPECK = { finder: SPECK_WITNESS_TRAITS.indexOf('finder'), heat: SPECK_WITNESS_TRAITS.indexOf('heat') };
/** A line is right when half of it lies on laid ones; between the two it says nothing. */
const [RIGHT, WRONG] = [0.5, 0.25];

/** A speck that stands out by so much is one, though nobody sees it at a glance; a fainter one says nothing either way. */
const LEAST_SEEN = 1.5;
/** What neither the finder nor the net takes for a fault, in log-odds, is most of what there is: one of so many is learned from. */
const HOPELESS = { finder: -3, heat: -1 };
const OF_HOPELESS = 10;

/** Lines that were laid break up into specks that are none, and are no good examples either. */
const teachesSpecks = ({ family, lines }: JoiningScene): boolean =>
  family === 'mixed' || lines === null || lines.length === 0;

function speckRows({ scene }: SeenScene, joint: readonly JointSpeck[], rows: Rows): void {
  if (!teachesSpecks(scene)) return;
  const isOnLine = onLinesOf(scene);
  const traitsOf = new Map(joint.map(({ fault, traits }) => [fault, traits]));
  // Judged by what the net and the finder say together, so that the likelier of two on one fault is the one that counts.
  const sorted = joint.map(({ fault, traits }) => ({
    ...fault,
    confidence: logistic(traits[SPECK.finder] + traits[SPECK.heat]),
    of: fault,
  }));
  let hopeless = 0;
  for (const { isFault, of } of judgeSpecks(sorted, scene.specks, LEAST_SEEN)) {
    const traits = traitsOf.get(of.of);
    if (!traits || (!isFault && isOnLine(of))) continue;
    const isHopeless =
      !isFault && traits[SPECK.finder] < HOPELESS.finder && traits[SPECK.heat] < HOPELESS.heat;
    if (isHopeless && hopeless++ % OF_HOPELESS > 0) continue;
    rows.traits.push(traits);
    rows.labels.push(Number(isFault));
    rows.weights.push(isHopeless ? OF_HOPELESS : 1);
  }
}

/** True for a speck that lies on a laid line and is a part of it. */
function onLinesOf(scene: JoiningScene): (speck: Pick<Fault, 'x' | 'y' | 'polarity'>) => boolean {
  const shareOf = shareOnLines(scene);
  return ({ x, y, polarity }) => shareOf({ path: [[x, y]], polarity }) > 0;
}

function lineRows({ scene }: SeenScene, joint: readonly JointLine[], rows: Rows): void {
  const shareOf = shareOnLines(scene);
  for (const { fault, traits } of joint) {
    const share = shareOf({ path: fault.path ?? [], polarity: fault.polarity });
    if (share < RIGHT && share > WRONG) continue;
    rows.traits.push(traits);
    rows.labels.push(share >= RIGHT ? 1 : 0);
    rows.weights.push(1);
  }
}

const noRows = (): Rows => ({ traits: [], labels: [], weights: [] });

/** What can be learned from one scene: it goes into every forest but those of its own fold, and is worked out once. */
const ownRows = new WeakMap<SeenScene, { specks: Rows; lines: Rows }>();

function rowsOn(seen: SeenScene): { specks: Rows; lines: Rows } {
  const known = ownRows.get(seen);
  if (known) return known;
  const rows = { specks: noRows(), lines: noRows() };
  const { found, maps, scene } = seen;
  const picture = { nature: scene.nature, raster: scene.seen, luma: lumaPlane(scene.seen), maps };
  const specksFound = found.filter(({ kind }) => kind === 'speck');
  speckRows(seen, jointSpecks(specksFound, picture), rows.specks);
  const linesFound = found.filter(({ path }) => path !== undefined);
  lineRows(seen, jointLines(linesFound, picture), rows.lines);
  ownRows.set(seen, rows);
  return rows;
}

const together = (all: readonly Rows[]): Rows => ({
  traits: all.flatMap(({ traits }) => traits),
  labels: all.flatMap(({ labels }) => labels),
  weights: all.flatMap(({ weights }) => weights),
});

/** What can be learned from scenes. */
function rowsOf(scenes: readonly SeenScene[]): { specks: Rows; lines: Rows } {
  const rows = scenes.map(rowsOn);
  return {
    specks: together(rows.map(({ specks }) => specks)),
    lines: together(rows.map(({ lines }) => lines)),
  };
}

/** The two forests as they are written. */
export interface JoiningWeights {
  readonly specks: Forest;
  readonly lines: Forest;
}

export const weightsOf = (scenes: readonly SeenScene[]): JoiningWeights => {
  const { specks, lines } = rowsOf(scenes);
  return {
    specks: boost(SPECK_WITNESS_TRAITS, specks.traits, specks.labels, OPTIONS, specks.weights),
    lines: boost(LINE_WITNESS_TRAITS, lines.traits, lines.labels, OPTIONS, lines.weights),
  };
};

export const grownWeights = ({ specks, lines }: JoiningWeights): JoiningForests => ({
  specks: growForest(specks),
  lines: growForest(lines),
});

/** What is kept on a scene, surest first. */
export const joinedOn = ({ scene, found, maps }: SeenScene, forests: JoiningForests): Fault[] =>
  joinWitness(found, maps, pixelsOf(scene.seen), scene.nature, forests);

/** Specks and lines that are kept, with what each is. */
export function judgedOn({ scene }: SeenScene, kept: readonly Fault[]): { specks: Kept[]; lines: Kept[] } {
  const specks = kept.filter(({ kind }) => kind === 'speck');
  const lines = kept.filter(({ path }) => path !== undefined);
  const [isOnLine, shareOf] = [onLinesOf(scene), shareOnLines(scene)];
  return {
    specks: teachesSpecks(scene)
      ? judgeSpecks(specks, scene.specks, LEAST_SEEN)
          .map(({ isFault, of }) => ({ fault: of, isFault }))
          .filter(({ fault, isFault }) => isFault || !isOnLine(fault))
      : [],
    lines: lines.map((fault) => ({
      fault,
      isFault: shareOf({ path: fault.path ?? [], polarity: fault.polarity }) >= RIGHT,
    })),
  };
}

/** The weights, so that what they say of what is kept is true: of many on one place the surest is surer than it should be. */
export function calibrated(
  weights: JoiningWeights,
  specks: readonly Kept[],
  lines: readonly Kept[],
): JoiningWeights {
  const lineOf = (kept: readonly Kept[]) =>
    calibrate(
      kept.map(({ fault }) => boundedOdds(fault.confidence)),
      kept.map(({ isFault }) => Number(isFault)),
    );
  return {
    specks: { ...weights.specks, calibration: lineOf(specks) },
    lines: { ...weights.lines, calibration: lineOf(lines) },
  };
}
