import type { PictureNature } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import { EXAMINE_DEFAULTS, leastConfidence } from '@fennip/core/examine';
import type { LaidFault } from '@fennip/scenes';
import { damage } from './damage.ts';
import { findEverything } from './findEverything.ts';
import { layFibreShadows } from './fibreShadows.ts';
import { houghLines } from './houghLines.ts';
import { fromSheet, toSheet } from './light.ts';
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

/** Lines that are listed: by default, and at the best of many thresholds. */
async function scoresOf(
  { seen, faults }: Case,
  nature: PictureNature,
): Promise<{ listed: LineScore; bestF1: number }> {
  const found = (await findEverything(seen, nature)).filter(({ path }) => path);
  const listedFrom = (least: number): LineScore =>
    scoreLines(found.filter(({ confidence }) => confidence >= least).map(asLine), faults);
  const thresholds = Array.from({ length: 24 }, (_, k) => 0.02 + 0.04 * k);
  return {
    listed: listedFrom(leastConfidence(EXAMINE_DEFAULTS.sensitivity)),
    bestF1: best(thresholds.map(listedFrom)),
  };
}

async function lineRow({ name, seen, faults }: Case): Promise<Row> {
  const laid = faults.filter(({ path }) => path !== undefined);
  const { listed, bestF1 } = await scoresOf({ name, seen, faults: laid }, 'print');
  const allDark = laid.map((fault): LaidFault => ({ ...fault, polarity: 'dark' }));
  const peers: LineScore[] = [];
  for (const votes of [20, 30, 45, 70]) peers.push(scoreLines(await houghLines(seen, votes), allDark));
  return [
    ...[name, String(laid.length), listed.precision, listed.recall, listed.f1],
    ...[bestF1, best(peers)],
  ];
}

/** Frames that fibres are laid before, and openings that they are taken at. */
const FRAMES = ['viaduct-line-shoot-1.jpg', 'viaduct-line-shoot-3.jpg'];
const F_NUMBERS = [22, 16, 11, 8];

async function fibreRows(file: string): Promise<Row[]> {
  const { seen: clean } = await sceneCase(file);
  const rows: Row[] = [];
  for (const fNumber of F_NUMBERS) {
    const sheet = toSheet(clean);
    const faults = layFibreShadows(sheet, fNumber, SEED);
    const { listed, bestF1 } = await scoresOf({ name: file, seen: fromSheet(sheet), faults }, 'frame');
    const widths = faults.map(({ r }) => 2 * r);
    rows.push([
      ...[`${file}, f/${fNumber}`, Math.min(...widths), Math.max(...widths), String(faults.length)],
      ...[listed.precision, listed.recall, listed.f1, bestF1],
    ]);
  }
  return rows;
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
  printTable(
    'Finding the shadows of fibres before a sensor, on rendered frames',
    ['frame', 'thinnest px', 'widest px', 'laid', 'precision', 'recall', 'F1', 'best F1'],
    (await Promise.all(FRAMES.map(fibreRows))).flat(),
  );
}
