import { mkdir, readFile, readdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { deserialize, serialize } from 'node:v8';
import type { PictureNature } from '@fennip/core/examine';
import { mulberry } from '@fennip/core/random';
import type { Raster } from '@fennip/core/raster';
import { cloneRaster, lumaPlane, viewRaster } from '@fennip/core/raster';
import { resizeRaster } from '@fennip/core/resample';
import { decodePicture } from '@fennip/files';
import type { LaidFault } from '@fennip/scenes';
import type { DamageKind } from '../../damage.ts';
import { SPOT_KINDS, damage } from '../../damage.ts';
import type { LineKind } from '../../lines.ts';
import { LINE_KINDS } from '../../lines.ts';
import type { Line } from '../../onLines.ts';
import { onLines } from '../../onLines.ts';
import { AT_A_GLANCE, standsOut } from '../../standsOut.ts';
import { laySpreadGrain } from '../grounds.ts';
import { netCrop, ON } from '../net/layNetCrops.ts';
import { throughJpeg } from '../throughJpeg.ts';

const FOLDER = fileURLToPath(new URL('../../../../.fennip', import.meta.url));
const KEPT = join(FOLDER, 'net/scenes');

export type JoiningFamily = DamageKind | 'mixed' | 'clean';

/** A picture that the joining learns from, and the truth about it. */
export interface JoiningScene {
  /** No other scene has it: what was found on it is kept by this name. */
  readonly name: string;
  readonly photograph: string;
  readonly family: JoiningFamily;
  readonly nature: PictureNature;
  readonly seen: Raster;
  readonly specks: readonly (LaidFault & { readonly stands: number })[];
  /** Lines that were laid; null where their courses are not known one by one. */
  readonly lines: readonly LaidFault[] | null;
  /** Where those lie whose courses are not known: 1 for pixels of the picture, those that nobody sees among them. */
  readonly onLines: Uint8Array | null;
}

/** The share of a line's course that lies on lines that were laid on a scene, 0 to 1. */
export function shareOnLines({ lines, onLines: mask, seen }: JoiningScene): (line: Line) => number {
  if (lines) {
    const laid = lines.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, r }] : []));
    return onLines(
      laid,
      laid.map(({ r }) => r),
    ).shareOf;
  }
  const isNear = (x: number, y: number): boolean => {
    for (let py = Math.max(0, Math.floor(y - BESIDE)); py <= Math.min(seen.height - 1, y + BESIDE); py++)
      for (let px = Math.max(0, Math.floor(x - BESIDE)); px <= Math.min(seen.width - 1, x + BESIDE); px++)
        if (mask?.[py * seen.width + px] === 1) return true;
    return false;
  };
  return ({ path }) => path.filter(([x, y]) => isNear(x, y)).length / Math.max(1, path.length);
}

/** Pixels of a scene at most. */
const MOST = 1e6;
/** How far beside a laid line's pixels a course still lies on it, in pixels. */
const BESIDE = 2;

type Uniform = () => number;

/** A part of a photograph, shrunk, as it is, or enlarged as large frames are smooth. */
function part(photograph: Raster, uniform: Uniform): Raster {
  const drawn = uniform();
  const factor = drawn < 0.55 ? 1 : drawn < 0.75 ? 0.55 + 0.4 * uniform() : 1.2 + 0.8 * uniform();
  const most = Math.sqrt(MOST) / factor;
  const width = Math.min(photograph.width, Math.round(most * 1.2));
  const height = Math.min(photograph.height, Math.round(most / 1.2));
  const left = Math.floor(uniform() * (photograph.width - width + 1));
  const top = Math.floor(uniform() * (photograph.height - height + 1));
  const cut = cloneRaster(viewRaster(photograph, { left, top, width, height }));
  return factor === 1 ? cut : resizeRaster(cut, Math.round(width * factor), Math.round(height * factor));
}

const isLines = (kind: DamageKind): kind is LineKind => LINE_KINDS.some((name) => name === kind);

/** Hairs lie before sensors too; scratches, and hard dust, on prints alone. */
function natureOf(kind: DamageKind, uniform: Uniform): PictureNature {
  if (kind === 'hairs') return uniform() < 0.5 ? 'frame' : 'print';
  return kind === 'soft dust' || kind === 'lit particles' ? 'frame' : 'print';
}

/** What a file adds to a picture: grain and JPEG, or nothing. */
async function asFiled(seen: Raster, uniform: Uniform, seed: number): Promise<Raster> {
  if (uniform() < 0.4) laySpreadGrain(seen, 5 * uniform() ** 2, seed);
  return uniform() < 0.4 ? throughJpeg(seen, Math.round(65 + 33 * uniform()), '4:2:0') : seen;
}

async function damagedScene(
  photograph: string,
  raster: Raster,
  kind: DamageKind | 'clean',
  seed: number,
): Promise<JoiningScene> {
  const uniform = mulberry(seed);
  const ground = part(raster, uniform);
  const name = `${photograph}, ${kind}, ${seed}`;
  if (kind === 'clean') {
    const seen = await asFiled(ground, uniform, seed);
    const nature = uniform() < 0.5 ? 'frame' : 'print';
    return { name, photograph, family: kind, nature, seen, specks: [], lines: [], onLines: null };
  }
  // From hardly any to a neglected print or a dive: what is usual must not be learned.
  const density = isLines(kind) ? 4 * 10 ** uniform() : 8 * 25 ** uniform();
  const { seen: sharp, faults } = damage(ground, kind, seed, density);
  const seen = await asFiled(sharp, uniform, seed);
  const luma = lumaPlane(seen);
  const specks = isLines(kind) ? [] : faults.map((one) => ({ ...one, stands: standsOut(luma, one) }));
  return {
    ...{ name, photograph, family: kind, nature: natureOf(kind, uniform), seen, specks },
    ...{ lines: isLines(kind) ? faults : [], onLines: null },
  };
}

/** A crop as the net learns from, of another seed. */
async function mixedScene(photograph: string, raster: Raster, seed: number): Promise<JoiningScene> {
  const { seen, specks, truth } = await netCrop(raster, seed);
  return {
    ...{ name: `${photograph}, mixed, ${seed}`, photograph, family: 'mixed', seen, specks },
    nature: seed % 2 === 0 ? 'frame' : 'print',
    ...{ lines: null, onLines: truth.map((on) => ((on & (ON.line | ON.unseen)) === 0 ? 0 : 1)) },
  };
}

const KINDS: readonly (DamageKind | 'clean')[] = [...SPOT_KINDS, ...LINE_KINDS, 'clean', 'clean'];
/** Mixed scenes of each photograph. */
const MIXED = 8;

/** Does something once, when it is first asked for. */
function memoized<T>(make: () => Promise<T>): () => Promise<T> {
  let made: Promise<T> | null = null;
  return () => (made ??= make());
}

/** A scene that was made before is read again: they are the same each time, and take longer to make than to look at. */
async function keptScene(name: string, make: () => Promise<JoiningScene>): Promise<JoiningScene> {
  const path = join(KEPT, `${name}.v8`);
  const kept = await readFile(path).catch(() => null);
  if (kept) return deserialize(kept) as JoiningScene;
  const scene = await make();
  await mkdir(KEPT, { recursive: true });
  await writeFile(path, serialize(scene));
  return scene;
}

/** All scenes of a round, one photograph after the other. @param round another one has other faults on other parts */
export async function* joiningScenes(round: number): AsyncGenerator<JoiningScene> {
  const folder = join(FOLDER, 'photographs/validation');
  const names = (await readdir(folder)).filter((name) => name.endsWith('.png')).sort();
  for (const [p, file] of names.entries()) {
    const photograph = file.replace('.png', '');
    const raster = memoized(async () => (await decodePicture(join(folder, file))).raster);
    const seed = 700_000_000 + 1_000_000 * round + 100 * p;
    for (const [k, kind] of KINDS.entries())
      yield await keptScene(`${photograph}, ${kind}, ${seed + k}`, async () =>
        damagedScene(photograph, await raster(), kind, seed + k),
      );
    for (let k = KINDS.length; k < KINDS.length + MIXED; k++)
      yield await keptScene(`${photograph}, mixed, ${seed + k}`, async () =>
        mixedScene(photograph, await raster(), seed + k),
      );
  }
}

/** True for a speck that is seen at a glance. */
export const isClear = ({ stands }: { readonly stands: number }): boolean => stands >= AT_A_GLANCE;
