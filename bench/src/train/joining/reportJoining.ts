import { boundedOdds } from '@fennip/core/bench';
import type { Calibration } from '@fennip/core/bench';
import { visibilityOf } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import { lumaPlane } from '@fennip/core/raster';
import { logistic } from '@fennip/core/solve';
import type { LaidFault } from '@fennip/scenes';
import { f1Of } from '../../find.ts';
import { judgeSpecks } from '../../judgeSpecks.ts';
import { SEEN_LINE, lineStandsOut } from '../../lineStandsOut.ts';
import { scoreSeenLines } from '../../onLines.ts';
import { printConfidences } from '../../printConfidences.ts';
import type { Row } from '../../report.ts';
import { printTable } from '../../report.ts';
import type { JoiningWeights, Kept, SeenScene } from './growJoining.ts';
import type { JoiningFamily, JoiningScene } from './joiningScenes.ts';
import { isClear } from './joiningScenes.ts';
import { simulateRestorer } from './simulateRestorer.ts';

/** A scene with what is kept on it by forests that never saw its photograph. */
export interface JoinedScene extends SeenScene {
  readonly kept: readonly Fault[];
  readonly judged: { readonly specks: readonly Kept[]; readonly lines: readonly Kept[] };
}

const FAMILIES: readonly JoiningFamily[] = [
  ...(['soft dust', 'lit particles', 'hard dust', 'mixed'] as const),
  ...(['light scratches', 'dark scratches', 'hairs'] as const),
];

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

const asSure = ({ slope, offset }: Calibration, confidence: number): number =>
  logistic(slope * boundedOdds(confidence) + offset);

const parted = new WeakMap<JoiningScene, { readonly seen: LaidFault[]; readonly faint: LaidFault[] }>();

/** The lines that were laid on a scene, by whether they can be seen. */
function linesOf(scene: JoiningScene, laid: readonly LaidFault[]) {
  const known = parted.get(scene);
  if (known) return known;
  const luma = lumaPlane(scene.seen);
  const isSeen = laid.map((line) => lineStandsOut(luma, line) >= SEEN_LINE);
  const own = { seen: laid.filter((_, k) => isSeen[k]), faint: laid.filter((_, k) => !isSeen[k]) };
  parted.set(scene, own);
  return own;
}

/** F1 of what is listed on a scene; null where its faults are not known one by one. */
function f1On({ scene }: SeenScene, listed: readonly Fault[]): number | null {
  if (scene.lines && scene.lines.length > 0) {
    const lines = listed.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, width: 2 * r }] : []));
    const { seen, faint } = linesOf(scene, scene.lines);
    return seen.length === 0 ? null : scoreSeenLines(lines, seen, faint).f1;
  }
  const clear = scene.specks.filter(isClear).length;
  if (clear === 0) return null;
  const judged = judgeSpecks(
    listed.filter(({ kind }) => kind === 'speck'),
    scene.specks,
  );
  const found = judged.filter(({ isFault }) => isFault).length;
  return f1Of(found, judged.length - found, clear);
}

/** How much of what is right and of what is wrong lies below floors of visibility. */
function printVisibility(
  joined: readonly JoinedScene[],
  sure: (fault: Fault) => number,
  least: number,
): void {
  const listed = joined.flatMap(({ scene: { seen }, judged }) =>
    judged.specks
      .filter(({ fault }) => sure(fault) >= least)
      .map(({ fault, isFault }) => ({
        isFault,
        visible: visibilityOf(fault, (tone) => tone, Math.hypot(seen.width, seen.height)),
      })),
  );
  const belowOf = (isFault: boolean, floor: number): number => {
    const own = listed.filter((one) => one.isFault === isFault);
    return own.filter(({ visible }) => visible < floor).length / own.length;
  };
  printTable(
    'Listed specks below a floor of visibility',
    ['floor', 'right', 'wrong'],
    [0.0002, 0.0005, 0.001, 0.002, 0.005].map((floor) => [
      String(floor),
      belowOf(true, floor),
      belowOf(false, floor),
    ]),
  );
  const wrong = listed.filter(({ isFault }) => !isFault).length;
  console.log(`${(wrong / listed.length).toFixed(3)} of the specks listed at the default are wrong`);
}

const CUTS = [0.2, 0.3, 0.4, 0.5, 0.6, 0.7];

/** What a lower and a higher default would list. */
function printCuts(joined: readonly JoinedScene[], listed: (one: JoinedScene, cut: number) => Fault[]): void {
  const of = (family: JoiningFamily) => joined.filter(({ scene }) => scene.family === family);
  const megapixels = of('clean').reduce(
    (sum, { scene: { seen } }) => sum + (seen.width * seen.height) / 1e6,
    0,
  );
  const rows = CUTS.map((cut): Row => {
    const wrong = of('clean').flatMap((one) => listed(one, cut));
    const falseOf = (is: (fault: Fault) => boolean): number => wrong.filter(is).length / megapixels;
    return [
      cut.toFixed(1),
      ...FAMILIES.map((family) => mean(of(family).flatMap((one) => f1On(one, listed(one, cut)) ?? []))),
      falseOf(({ kind }) => kind === 'speck'),
      falseOf(({ path }) => path !== undefined),
      falseOf(({ outline }) => outline !== undefined),
    ];
  });
  printTable(
    'F1 by confidence, and false specks, lines and areas a megapixel of clean scenes',
    ['from', ...FAMILIES, 'specks', 'lines', 'areas'],
    rows,
  );
}

/** Listed on a scene of each family, in the mean, by the finders alone and by both. */
export function reportJoining(joined: readonly JoinedScene[], weights: JoiningWeights, least: number): void {
  const sure = (fault: Fault): number =>
    fault.kind === 'speck'
      ? asSure(weights.specks.calibration, fault.confidence)
      : fault.path
        ? asSure(weights.lines.calibration, fault.confidence)
        : fault.confidence;
  const alone = ({ found }: JoinedScene): Fault[] => found.filter(({ confidence }) => confidence >= least);
  const both = ({ kept }: JoinedScene): Fault[] => kept.filter((fault) => sure(fault) >= least);
  const rows = FAMILIES.map((family): Row => {
    const own = joined.filter(({ scene }) => scene.family === family);
    const meanOf = (listed: (one: JoinedScene) => Fault[]): number =>
      mean(own.map((one) => f1On(one, listed(one))).filter((f1) => f1 !== null));
    return [family, String(own.length), meanOf(alone), meanOf(both)];
  });
  printTable(
    'F1 at the default, of what stands out, each photograph left out',
    ['family', 'scenes', 'finders', 'with the net'],
    rows,
  );
  printCuts(joined, (one, cut) => one.kept.filter((fault) => sure(fault) >= cut));
  const clean = joined.filter(({ scene }) => scene.family === 'clean');
  for (const [name, listed] of [
    ['finders', alone],
    ['with the net', both],
  ] as const) {
    const wrong = clean.map((one) => listed(one).length);
    const megapixels = clean.reduce((sum, { scene: { seen } }) => sum + (seen.width * seen.height) / 1e6, 0);
    const total = wrong.reduce((sum, count) => sum + count, 0);
    console.log(
      `clean, ${name}: ${(total / megapixels).toFixed(2)} a megapixel, none on ${wrong.filter((count) => count === 0).length} of ${wrong.length}`,
    );
  }
  simulateRestorer(
    joined.map(({ scene, kept }) => ({
      scene,
      specks: kept
        .filter(({ kind }) => kind === 'speck')
        .map((fault) => ({ ...fault, confidence: sure(fault) })),
    })),
    least,
  );
  printVisibility(joined, sure, least);
  for (const of of ['specks', 'lines'] as const)
    printConfidences(
      `Confidence of ${of}`,
      joined.flatMap(({ judged }) =>
        judged[of].map(({ fault, isFault }) => ({ confidence: sure(fault), isFault })),
      ),
    );
}
