import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PictureNature } from '@fennip/core/examine';
import { EXAMINE_DEFAULTS, leastConfidence } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { lumaPlane } from '@fennip/core/raster';
import { decodePicture } from '@fennip/files';
import type { LaidFault } from '@fennip/scenes';
import type { DamageKind } from './damage.ts';
import { SPOT_KINDS, damage } from './damage.ts';
import { f1Of } from './find.ts';
import type { Finder } from './findEverything.ts';
import { findAlone, findEverything } from './findEverything.ts';
import { judgeSpecks } from './judgeSpecks.ts';
import { LINE_KINDS } from './lines.ts';
import { SEEN_LINE, lineStandsOut } from './lineStandsOut.ts';
import { scoreSeenLines } from './onLines.ts';
import type { JudgedFinding } from './printConfidences.ts';
import { printConfidences } from './printConfidences.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';
import { AT_A_GLANCE, standsOut } from './standsOut.ts';

/** Other faults than those that the joining learns from. */
const SEED = 9000;

const FOLDER = fileURLToPath(new URL('../../.fennip/photographs', import.meta.url));

/** A photograph with damage of one family, or with none. */
export interface BreadthCase {
  readonly photograph: string;
  readonly family: (typeof SPOT_KINDS)[number] | 'lines' | 'clean';
  readonly nature: PictureNature;
  readonly seen: Raster;
  readonly faults: readonly (LaidFault & { readonly stands: number })[];
}

/** Shadows and particles are those of a camera; hard dust and lines lie on prints. */
const natureOf = (kind: DamageKind): PictureNature =>
  kind === 'soft dust' || kind === 'lit particles' ? 'frame' : 'print';

/** All cases of a part of the photographs, one photograph after the other. */
export async function* breadthCases(
  part: 'training' | 'validation' | 'test',
  seed: number,
): AsyncGenerator<BreadthCase> {
  const names = (await readdir(join(FOLDER, part))).filter((name) => name.endsWith('.png')).sort();
  for (const [p, name] of names.entries()) {
    const photograph = name.replace('.png', '');
    const { raster } = await decodePicture(join(FOLDER, part, name));
    const kinds: DamageKind[] = [...SPOT_KINDS, LINE_KINDS[p % LINE_KINDS.length]];
    for (const [k, kind] of kinds.entries()) {
      const { seen, faults } = damage(raster, kind, seed + 10 * p + k);
      const luma = lumaPlane(seen);
      const family = k < SPOT_KINDS.length ? SPOT_KINDS[k] : 'lines';
      const standing = faults.map((fault) => ({
        ...fault,
        stands: fault.path ? lineStandsOut(luma, fault) : standsOut(luma, fault),
      }));
      yield { photograph, family, nature: natureOf(kind), seen, faults: standing };
    }
    yield { photograph, family: 'clean', nature: p % 2 === 0 ? 'frame' : 'print', seen: raster, faults: [] };
  }
}

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** The finders by themselves, and with the net where there is one. */
const FINDERS: readonly (readonly [string, Finder])[] = [
  ['the finders alone', findAlone],
  ['finders and net', findEverything],
];

const LEAST = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
const isListed = ({ confidence }: { readonly confidence: number }): boolean => confidence >= LEAST;

/** F1 of what is listed on a picture. */
function f1On(
  { family, faults }: BreadthCase,
  findings: readonly Fault[],
  judged: readonly JudgedFinding[],
): number {
  if (family === 'lines') {
    const lines = findings
      .filter(isListed)
      .flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, width: 2 * r }] : []));
    const isSeen = ({ stands }: { readonly stands: number }): boolean => stands >= SEEN_LINE;
    return scoreSeenLines(
      lines,
      faults.filter(isSeen),
      faults.filter((fault) => !isSeen(fault)),
    ).f1;
  }
  const listed = judged.filter(isListed);
  const found = listed.filter(({ isFault }) => isFault).length;
  return f1Of(found, listed.length - found, faults.filter(({ stands }) => stands >= AT_A_GLANCE).length);
}

async function benchFinder(
  part: 'validation' | 'test',
  [name, find]: (typeof FINDERS)[number],
): Promise<void> {
  const scores = new Map<BreadthCase['family'], number[]>();
  const clean: { readonly wrong: number; readonly megapixels: number }[] = [];
  const judged: JudgedFinding[] = [];
  for await (const each of breadthCases(part, SEED)) {
    const findings = await find(each.seen, each.nature);
    if (each.family === 'clean') {
      const megapixels = (each.seen.width * each.seen.height) / 1e6;
      clean.push({ wrong: findings.filter(isListed).length, megapixels });
      continue;
    }
    const specks =
      each.family === 'lines'
        ? []
        : judgeSpecks(
            findings.filter(({ kind }) => kind === 'speck'),
            each.faults,
          );
    judged.push(...specks);
    scores.set(each.family, [...(scores.get(each.family) ?? []), f1On(each, findings, specks)]);
  }
  const sum = (of: 'wrong' | 'megapixels'): number => clean.reduce((total, one) => total + one[of], 0);
  printTable(
    `Finding on ${part} photographs, at the default, what stands out: ${name}`,
    ['family', 'scenes', 'F1, mean'],
    [
      ...[...scores].map(([family, f1]): Row => [family, String(f1.length), mean(f1)]),
      ['specks together', '', mean(SPOT_KINDS.flatMap((kind) => scores.get(kind) ?? []))],
    ],
  );
  console.log(
    `clean: ${(sum('wrong') / sum('megapixels')).toFixed(2)} false finds a megapixel, none on ${clean.filter(({ wrong }) => wrong === 0).length} of ${clean.length}`,
  );
  printConfidences(`Confidence: ${name}`, judged);
}

/** How well faults are found on photographs that nothing was learned from. @param part test is looked at once, at the end */
export async function benchBreadth(part: 'validation' | 'test'): Promise<void> {
  for (const finder of FINDERS) await benchFinder(part, finder);
}
