import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Fault, Polarity, Raster } from '@fennip/core';
import { EXAMINE_DEFAULTS, examinePicture, leastConfidence, pixelsOf } from '@fennip/core';
import { decodePicture } from '@fennip/files';
import type { LaidFault } from '@fennip/scenes';
import { damage } from './damage.ts';
import { scoreFindings } from './find.ts';
import type { Photograph } from './photographs.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

const SCENES = fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url));
const SEED = 7;

interface Case {
  readonly name: string;
  readonly seen: Raster;
  readonly faults: readonly LaidFault[];
  readonly polarities: readonly Polarity[];
}

async function sceneCase(file: string, polarities: readonly Polarity[]): Promise<Case> {
  const { raster } = await decodePicture(join(SCENES, file));
  const truth = JSON.parse(await readFile(join(SCENES, `${file}.truth.json`), 'utf8')) as {
    faults: LaidFault[];
  };
  return {
    name: file,
    seen: raster,
    faults: truth.faults.filter(({ kind }) => kind === 'speck'),
    polarities,
  };
}

/** The best F1 that any one threshold gives: how good the order of the findings is. */
function bestF1(all: readonly Fault[], faults: readonly LaidFault[]): number {
  let best = 0;
  for (let least = 0.02; least < 1; least += 0.02)
    best = Math.max(
      best,
      scoreFindings(
        all.filter(({ confidence }) => confidence >= least),
        faults,
      ).f1,
    );
  return best;
}

/** How well specks are found, at the sensitivity the application starts with. */
export async function benchFinding(photographs: readonly Photograph[]): Promise<void> {
  const laid = photographs.flatMap(({ name, raster }) =>
    (['soft dust', 'lit particles'] as const).map((kind): Case => {
      const { seen, faults } = damage(raster, kind, SEED);
      return {
        name: `${name} ${kind}`,
        seen,
        faults,
        polarities: [kind === 'soft dust' ? 'dark' : 'bright'],
      };
    }),
  );
  const scenes = [
    await sceneCase('viaduct-line-shoot-3.jpg', ['dark']),
    await sceneCase('opening-day-print.tif', ['dark', 'bright']),
    await sceneCase('wagon-in-the-quarry.jpg', ['bright']),
  ];
  const rows = [...laid, ...scenes].map(({ name, seen, faults, polarities }): Row => {
    const all = examinePicture(pixelsOf(seen), { ...EXAMINE_DEFAULTS, polarities, sensitivity: 1 });
    const least = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
    const score = scoreFindings(
      all.filter(({ confidence }) => confidence >= least),
      faults,
    );
    return [name, String(faults.length), score.precision, score.recall, score.f1, bestF1(all, faults)];
  });
  printTable('Finding specks', ['picture', 'laid', 'precision', 'recall', 'F1', 'best F1'], rows);
}
