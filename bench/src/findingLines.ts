import type { Fault } from '@fennip/core';
import { EXAMINE_DEFAULTS, examinePicture, leastConfidence, pixelsOf } from '@fennip/core';
import type { LaidFault } from '@fennip/scenes';
import { damage } from './damage.ts';
import { houghLines } from './houghLines.ts';
import { LINE_KINDS } from './lines.ts';
import type { LineScore } from './onLines.ts';
import { scoreLines } from './onLines.ts';
import { loadPhotograph } from './photographs.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';
import type { Case } from './seenCases.ts';
import { UNSEEN, sceneCase } from './seenCases.ts';

const SEED = 7;

async function photographCases(name: string): Promise<Case[]> {
  const { raster } = await loadPhotograph(name);
  return LINE_KINDS.map((kind): Case => {
    const { seen, faults } = damage(raster, kind, SEED);
    return { name: `${name}, ${kind}`, seen, faults };
  });
}

const asLine = ({ path = [], polarity, r }: Fault) => ({ path, polarity, width: 2 * r });

/** The best of many thresholds. */
const best = (scores: readonly LineScore[]): number => Math.max(...scores.map(({ f1 }) => f1));

async function lineRow({ name, seen, faults }: Case): Promise<Row> {
  const laid = faults.filter(({ path }) => path !== undefined);
  const found = examinePicture(pixelsOf(seen), { ...EXAMINE_DEFAULTS, sensitivity: 1 }).filter(
    ({ path }) => path,
  );
  const listedFrom = (least: number): LineScore =>
    scoreLines(found.filter(({ confidence }) => confidence >= least).map(asLine), laid);
  const score = listedFrom(leastConfidence(EXAMINE_DEFAULTS.sensitivity));
  const thresholds = Array.from({ length: 24 }, (_, k) => 0.02 + 0.04 * k);
  const allDark = laid.map((fault): LaidFault => ({ ...fault, polarity: 'dark' }));
  const peers: LineScore[] = [];
  for (const votes of [20, 30, 45, 70]) peers.push(scoreLines(await houghLines(seen, votes), allDark));
  return [
    ...[name, String(laid.length), score.precision, score.recall, score.f1],
    ...[best(thresholds.map(listedFrom)), best(peers)],
  ];
}

/** How well scratches, hairs, fibres and creases are found. */
export async function benchFindingLines(): Promise<void> {
  const cases = [
    ...(await Promise.all(UNSEEN.map(photographCases))).flat(),
    await sceneCase('opening-day-print.tif'),
  ];
  const rows: Row[] = [];
  for (const each of cases) rows.push(await lineRow(each));
  printTable(
    'Finding lines, on photographs and scenes that no training has seen',
    ['picture', 'laid', 'precision', 'recall', 'F1', 'best F1', 'Hough, best F1'],
    rows,
  );
}
