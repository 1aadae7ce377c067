import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PictureNature } from '@fennip/core/examine';
import { EXAMINE_DEFAULTS, leastConfidence } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import type { Raster } from '@fennip/core/raster';
import { lumaPlane, pixelsOf } from '@fennip/core/raster';
import { decodePicture } from '@fennip/files';
import type { LaidFault } from '@fennip/scenes';
import { joinWithNet } from '@fennip/witness';
import type { DamageKind } from './damage.ts';
import { SPOT_KINDS, damage } from './damage.ts';
import { f1Of } from './find.ts';
import type { DrawnFinds } from './drawFound.ts';
import { drawFound } from './drawFound.ts';
import { findAlone } from './findEverything.ts';
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

const LEAST = leastConfidence(EXAMINE_DEFAULTS.sensitivity);
const isListed = ({ confidence }: { readonly confidence: number }): boolean => confidence >= LEAST;
const standingOut = (faults: BreadthCase['faults'], least: number): BreadthCase['faults'] =>
  faults.filter(({ stands }) => stands >= least);
const megapixelsOf = ({ width, height }: Raster): number => (width * height) / 1e6;

/** What was found on a scene. */
interface Judged {
  readonly f1: number;
  /** Share of the specks that stand out that is found with at most 25 false finds a megapixel; null of lines. */
  readonly recall: number | null;
  readonly specks: readonly JudgedFinding[];
  readonly finds: DrawnFinds;
}

function judgeSpeckScene({ faults, seen }: BreadthCase, findings: readonly Fault[]): Judged {
  const specks = judgeSpecks(
    findings.filter(({ kind }) => kind === 'speck'),
    faults,
  );
  const clear = standingOut(faults, AT_A_GLANCE);
  const listed = specks.filter(isListed);
  const [found, wrong] = [true, false].map((is) =>
    listed.filter(({ isFault }) => isFault === is).map(({ of }) => of),
  );
  const missed = clear.filter(
    (fault) => !found.some(({ x, y }) => Math.hypot(x - fault.x, y - fault.y) < Math.max(2, fault.r)),
  );
  return {
    f1: f1Of(found.length, wrong.length, clear.length),
    recall: recallOf(specks, clear.length, 25 * megapixelsOf(seen)),
    specks,
    finds: { found, missed, wrong },
  };
}

/** The share of faults that is found before more than so many findings are wrong. */
function recallOf(judged: readonly JudgedFinding[], laid: number, mostWrong: number): number {
  let [found, wrong] = [0, 0];
  for (const { isFault } of judged) {
    if (isFault) found++;
    else if (++wrong > mostWrong) break;
  }
  return laid === 0 ? 1 : found / laid;
}

function judgeLineScene({ faults }: BreadthCase, findings: readonly Fault[]): Judged {
  const lines = findings
    .filter(isListed)
    .flatMap((fault) => (fault.path ? [{ ...fault, path: fault.path, width: 2 * fault.r }] : []));
  const seen = standingOut(faults, SEEN_LINE);
  const score = scoreSeenLines(
    lines,
    seen,
    faults.filter((fault) => !seen.includes(fault)),
  );
  return {
    f1: score.f1,
    recall: null,
    specks: [],
    finds: { found: score.right, missed: score.missed, wrong: score.wrong },
  };
}

/** Scores of one way to find over all scenes. */
class Scores {
  private readonly f1 = new Map<BreadthCase['family'], number[]>();
  private readonly recalls: number[] = [];
  private readonly clean: { readonly wrong: number; readonly megapixels: number }[] = [];
  private readonly judged: JudgedFinding[] = [];

  constructor(readonly name: string) {}

  add(scene: BreadthCase, findings: readonly Fault[]): DrawnFinds {
    if (scene.family === 'clean') {
      const wrong = findings.filter(isListed);
      this.clean.push({ wrong: wrong.length, megapixels: megapixelsOf(scene.seen) });
      return { found: [], missed: [], wrong };
    }
    const { f1, recall, specks, finds } = (scene.family === 'lines' ? judgeLineScene : judgeSpeckScene)(
      scene,
      findings,
    );
    this.f1.set(scene.family, [...(this.f1.get(scene.family) ?? []), f1]);
    if (recall !== null) this.recalls.push(recall);
    this.judged.push(...specks);
    return finds;
  }

  print(part: 'validation' | 'test'): void {
    const sum = (of: 'wrong' | 'megapixels'): number => this.clean.reduce((total, one) => total + one[of], 0);
    printTable(
      `Finding on ${part} photographs, at the default, what stands out: ${this.name}`,
      ['family', 'scenes', 'F1, mean'],
      [
        ...[...this.f1].map(([family, f1]): Row => [family, String(f1.length), mean(f1)]),
        ['specks together', '', mean(SPOT_KINDS.flatMap((kind) => this.f1.get(kind) ?? []))],
        ['specks, recall at 25 false a megapixel', '', mean(this.recalls)],
      ],
    );
    console.log(
      `clean: ${(sum('wrong') / sum('megapixels')).toFixed(2)} false finds a megapixel, none on ${this.clean.filter(({ wrong }) => wrong === 0).length} of ${this.clean.length}`,
    );
    printConfidences(`Confidence: ${this.name}`, this.judged);
  }
}

/**
 * How well faults are found on photographs that nothing was learned from.
 *
 * @param part test is looked at once, at the end
 * @param drawInto a folder for the scenes with what was found, missed and wrong drawn in
 */
export async function benchBreadth(part: 'validation' | 'test', drawInto?: string): Promise<void> {
  const [alone, joined] = [new Scores('the finders alone'), new Scores('finders and net')];
  for await (const scene of breadthCases(part, SEED)) {
    const findings = await findAlone(scene.seen, scene.nature);
    alone.add(scene, findings);
    const finds = joined.add(scene, await joinWithNet(findings, pixelsOf(scene.seen), scene.nature));
    const name = `${scene.photograph}, ${scene.family}.png`;
    if (drawInto !== undefined) await drawFound(join(drawInto, name), scene.seen, finds);
  }
  alone.print(part);
  joined.print(part);
}
