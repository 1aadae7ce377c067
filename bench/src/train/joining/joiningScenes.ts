import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
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

const FOLDER = fileURLToPath(new URL('../../../../.fennip/photographs', import.meta.url));

export type JoiningFamily = DamageKind | 'mixed' | 'clean';

/** A picture that the joining learns from, and the truth about it. */
export interface JoiningScene {
  /** Tells it from all others: what was found on it is kept by this name. */
  readonly name: string;
  readonly photograph: string;
  readonly family: JoiningFamily;
  readonly nature: PictureNature;
  readonly seen: Raster;
  readonly specks: readonly (LaidFault & { readonly stands: number })[];
  /** Share of a line's course that lies on laid lines, those that nobody sees among them, 0 to 1. */
  readonly shareOnLines: (line: Line) => number;
  /** Lines that were laid and are seen; null where their courses are not known one by one. */
  readonly lines: readonly LaidFault[] | null;
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
    return { name, photograph, family: kind, nature, seen, specks: [], shareOnLines: () => 0, lines: [] };
  }
  // From hardly any to a neglected print or a dive: what is usual must not be learned.
  const density = isLines(kind) ? 4 * 10 ** uniform() : 8 * 25 ** uniform();
  const { seen: sharp, faults } = damage(ground, kind, seed, density);
  const seen = await asFiled(sharp, uniform, seed);
  const luma = lumaPlane(seen);
  const specks = isLines(kind) ? [] : faults.map((one) => ({ ...one, stands: standsOut(luma, one) }));
  const laid = faults.flatMap(({ path, polarity, r }) => (path ? [{ path, polarity, r }] : []));
  const courses = onLines(
    laid,
    laid.map(({ r }) => r),
  );
  return {
    ...{ name, photograph, family: kind, nature: natureOf(kind, uniform), seen, specks },
    shareOnLines: courses.shareOf,
    lines: isLines(kind) ? faults : [],
  };
}

/** A crop as the net learns from, of another seed. */
async function mixedScene(photograph: string, raster: Raster, seed: number): Promise<JoiningScene> {
  const { seen, specks, truth } = await netCrop(raster, seed);
  const { width, height } = seen;
  const isNear = (x: number, y: number): boolean => {
    for (let py = Math.max(0, Math.floor(y - BESIDE)); py <= Math.min(height - 1, y + BESIDE); py++)
      for (let px = Math.max(0, Math.floor(x - BESIDE)); px <= Math.min(width - 1, x + BESIDE); px++)
        if ((truth[py * width + px] & (ON.line | ON.unseen)) !== 0) return true;
    return false;
  };
  return {
    ...{ name: `${photograph}, mixed, ${seed}`, photograph, family: 'mixed', seen, specks },
    nature: seed % 2 === 0 ? 'frame' : 'print',
    shareOnLines: ({ path }) => path.filter(([x, y]) => isNear(x, y)).length / Math.max(1, path.length),
    lines: null,
  };
}

const KINDS: readonly (DamageKind | 'clean')[] = [...SPOT_KINDS, ...LINE_KINDS, 'clean', 'clean'];
/** Mixed scenes of each photograph. */
const MIXED = 8;

/** All scenes of a round, one photograph after the other. @param round another one has other faults on other parts */
export async function* joiningScenes(round: number): AsyncGenerator<JoiningScene> {
  const folder = join(FOLDER, 'validation');
  const names = (await readdir(folder)).filter((name) => name.endsWith('.png')).sort();
  for (const [p, file] of names.entries()) {
    const photograph = file.replace('.png', '');
    const { raster } = await decodePicture(join(folder, file));
    const seed = 700_000_000 + 1_000_000 * round + 100 * p;
    for (const [k, kind] of KINDS.entries()) yield await damagedScene(photograph, raster, kind, seed + k);
    for (let k = 0; k < MIXED; k++) yield await mixedScene(photograph, raster, seed + KINDS.length + k);
  }
}

/** True for a speck that is seen at a glance. */
export const isClear = ({ stands }: { readonly stands: number }): boolean => stands >= AT_A_GLANCE;
