import type { PictureNature } from '@fennip/core/examine';
import { EXAMINE_DEFAULTS, leastConfidence } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { lumaPlane } from '@fennip/core/raster';
import { blobFindings } from './blobs.ts';
import { SPOT_KINDS, damage } from './damage.ts';
import { meetFindings, rankFindings, scoreFindings } from './find.ts';
import { findEverything } from './findEverything.ts';
import { loadPhotograph } from './photographs.ts';
import { printConfidences } from './printConfidences.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';
import type { Case } from './seenCases.ts';
import { UNSEEN, sceneCase } from './seenCases.ts';
import { AT_A_GLANCE, standsOut } from './standsOut.ts';

const SEED = 7;
/** The peer is given no pictures larger than this: it holds every scale of the whole picture at once. */
const MOST_FOR_PEER = 4e6;

async function photographCases(name: string): Promise<Case[]> {
  const { raster } = await loadPhotograph(name);
  return SPOT_KINDS.map((kind): Case => {
    const { seen, faults } = damage(raster, kind, SEED);
    return { name: `${name}, ${kind}`, seen, faults };
  });
}

/** All specks with their confidence, dark and bright ones as the application looks for them. */
const all = async (seen: Raster, nature: PictureNature): Promise<Fault[]> =>
  (await findEverything(seen, nature)).filter(({ kind }) => kind === 'speck');
/** Hard dust lies on prints, which can also have areas; shadows and lit particles are those of camera frames. */
const natureOf = (name: string): PictureNature => (/hard dust|print/.test(name) ? 'print' : 'frame');
const megapixelsOf = ({ width, height }: Raster): number => (width * height) / 1e6;

async function findingRow({ name, seen, faults }: Case, findings: readonly Fault[]): Promise<Row> {
  const least = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
  const listed = findings.filter(({ confidence }) => confidence >= least);
  const score = scoreFindings(listed, faults);
  const luma = lumaPlane(seen);
  const clear = faults.filter((fault) => standsOut(luma, fault) >= AT_A_GLANCE);
  const megapixels = megapixelsOf(seen);
  const { bestF1, averagePrecision, recallAt } = rankFindings(findings, faults, megapixels);
  const peer =
    seen.width * seen.height <= MOST_FOR_PEER
      ? rankFindings(
          await blobFindings(seen, EXAMINE_DEFAULTS.polarities),
          faults,
          megapixels,
        ).bestF1.toFixed(2)
      : '-';
  return [
    ...[name, String(faults.length), score.precision, score.recall, score.f1],
    ...[bestF1, averagePrecision, recallAt(25)],
    ...[`${scoreFindings(listed, clear).found} of ${clear.length}`, peer],
  ];
}

/** How well specks are found, at the sensitivity the application starts with and at every other. */
export async function benchFinding(): Promise<void> {
  const cases = [
    ...(await Promise.all(UNSEEN.map(photographCases))).flat(),
    await sceneCase('viaduct-line-shoot-3.jpg'),
    await sceneCase('opening-day-print.tif'),
    await sceneCase('wagon-in-the-quarry.jpg'),
  ].map((each) => ({ ...each, faults: each.faults.filter(({ kind }) => kind === 'speck') }));
  const rows: Row[] = [];
  const judged: { confidence: number; isFault: boolean }[] = [];
  for (const each of cases) {
    const findings = await all(each.seen, natureOf(each.name));
    rows.push(await findingRow(each, findings));
    for (const { confidence, is } of meetFindings(findings, each.faults))
      if (is !== 'again') judged.push({ confidence, isFault: is === 'found' });
  }
  printTable(
    'Finding specks, on photographs and scenes that no training has seen',
    [
      'picture',
      'laid',
      'precision',
      'recall',
      'F1',
      'best F1',
      'AP',
      'recall at 25/MP',
      'clear ones',
      'blobs, best F1',
    ],
    rows,
  );
  printConfidences('Confidence of all of these findings', judged);
  const clean = await Promise.all(UNSEEN.map(loadPhotograph));
  const least = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
  printTable(
    'False finds on clean photographs, a megapixel',
    ['photograph', 'false finds'],
    await Promise.all(
      clean.map(async ({ name, raster }): Promise<Row> => {
        const listed = (await all(raster, 'frame')).filter(({ confidence }) => confidence >= least);
        return [name, listed.length / megapixelsOf(raster)];
      }),
    ),
  );
}
