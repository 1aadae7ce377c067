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
import { meetFindings } from './find.ts';
import { LINE_KINDS } from './lines.ts';
import { scoreLines } from './onLines.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';
import { standsOut } from './standsOut.ts';

/** What is counted stands out from its surroundings by so many spreads of them. */
export const AT_A_GLANCE = 3;

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
        stands: fault.path ? AT_A_GLANCE : standsOut(luma, fault),
      }));
      yield { photograph, family, nature: natureOf(kind), seen, faults: standing };
    }
    yield { photograph, family: 'clean', nature: p % 2 === 0 ? 'frame' : 'print', seen: raster, faults: [] };
  }
}

/** Findings against what stands out: what meets a fainter fault counts neither way. */
export function judgeSpecks<T extends Pick<Fault, 'x' | 'y' | 'confidence'>>(
  findings: readonly T[],
  faults: BreadthCase['faults'],
): { readonly confidence: number; readonly isFault: boolean; readonly of: T }[] {
  const clear = faults.filter(({ stands }) => stands >= AT_A_GLANCE);
  const faint = faults.filter(({ stands }) => stands < AT_A_GLANCE);
  const sorted = [...findings].sort((a, b) => b.confidence - a.confidence);
  return meetFindings(sorted, clear).flatMap(({ confidence, is }, k) => {
    if (is === 'again') return [];
    const { x, y } = sorted[k];
    if (is === 'wrong' && faint.some((fault) => Math.hypot(fault.x - x, fault.y - y) < Math.max(2, fault.r)))
      return [];
    return [{ confidence, isFault: is === 'found', of: sorted[k] }];
  });
}

interface Counted {
  f1: number[];
  found: number;
  wrong: number;
  laid: number;
}

/** F1 of what was found and what was wrong; 1 where nothing lies there and nothing was found. */
export const f1Of = (found: number, wrong: number, laid: number): number =>
  found + wrong + laid === 0 ? 1 : (2 * found) / (found + wrong + laid);

const mean = (values: readonly number[]): number =>
  values.reduce((sum, value) => sum + value, 0) / values.length;

/** Finds all faults of a picture with their confidences. */
export type Finder = (seen: Raster, nature: PictureNature) => Promise<Fault[]>;

/** How well faults are found on photographs that nothing was learned from. */
export async function benchBreadth(part: 'validation' | 'test', find: Finder, title: string): Promise<void> {
  const least = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
  const families = new Map<string, Counted>();
  const judged: { confidence: number; isFault: boolean }[] = [];
  const cleanRates: number[] = [];
  let [cleanWrong, cleanMegapixels] = [0, 0];
  for await (const { family, nature, seen, faults } of breadthCases(part, 9000)) {
    const findings = await find(seen, nature);
    const listed = findings.filter(({ confidence }) => confidence >= least);
    if (family === 'clean') {
      const megapixels = (seen.width * seen.height) / 1e6;
      cleanRates.push(listed.length / megapixels);
      cleanWrong += listed.length;
      cleanMegapixels += megapixels;
      continue;
    }
    const counted = families.get(family) ?? { f1: [], found: 0, wrong: 0, laid: 0 };
    families.set(family, counted);
    if (family === 'lines') {
      const lines = listed.flatMap(({ path, polarity, r }) =>
        path ? [{ path, polarity, width: 2 * r }] : [],
      );
      counted.f1.push(scoreLines(lines, faults).f1);
      counted.laid += faults.length;
      continue;
    }
    const specks = judgeSpecks(
      findings.filter(({ kind }) => kind === 'speck'),
      faults,
    );
    judged.push(...specks);
    const shown = specks.filter(({ confidence }) => confidence >= least);
    const found = shown.filter(({ isFault }) => isFault).length;
    const laid = faults.filter(({ stands }) => stands >= AT_A_GLANCE).length;
    counted.f1.push(f1Of(found, shown.length - found, laid));
    counted.found += found;
    counted.wrong += shown.length - found;
    counted.laid += laid;
  }
  printTable(
    `${title}: ${part} photographs, default sensitivity, what stands out`,
    ['family', 'scenes', 'laid', 'F1, mean', 'found', 'wrong'],
    [...families].map(([family, { f1, found, wrong, laid }]): Row => [
      ...[family, String(f1.length), String(laid), mean(f1)],
      ...[String(found), String(wrong)],
    ]),
  );
  const spots = SPOT_KINDS.flatMap((kind) => families.get(kind)?.f1 ?? []);
  console.log(`specks together: F1 ${mean(spots).toFixed(3)}`);
  console.log(
    `clean: ${(cleanWrong / cleanMegapixels).toFixed(2)} false finds a megapixel, none on ${cleanRates.filter((rate) => rate === 0).length} of ${cleanRates.length}`,
  );
  const edges = [0.02, 0.1, 0.3, 0.5, 0.7, 0.9, 1.01];
  printTable(
    'Confidence',
    ['said', 'findings', 'mean', 'are faults'],
    edges.slice(1).flatMap((end, k): Row[] => {
      const inside = judged.filter(({ confidence }) => confidence >= edges[k] && confidence < end);
      if (inside.length === 0) return [];
      return [
        [
          `${edges[k]} to ${Math.min(1, end)}`,
          String(inside.length),
          mean(inside.map(({ confidence }) => confidence)),
          mean(inside.map(({ isFault }) => Number(isFault))),
        ],
      ];
    }),
  );
}
