import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Raster } from '@fennip/core/raster';
import { decodePicture } from '@fennip/files';
import type { LaidFault } from '@fennip/scenes';

/** A picture that is examined, and the truth about it. */
export interface Case {
  readonly name: string;
  readonly seen: Raster;
  readonly faults: readonly LaidFault[];
}

/** Photographs that no training has seen. */
export const UNSEEN = ['dust-bowl-home', 'nagasaki-boats'] as const;

const SCENES = fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url));

/** One of the project's rendered pictures with all faults that were laid on it. */
export async function sceneCase(file: string): Promise<Case> {
  const { raster } = await decodePicture(join(SCENES, file));
  const { faults } = JSON.parse(await readFile(join(SCENES, `${file}.truth.json`), 'utf8')) as {
    faults: LaidFault[];
  };
  return { name: file, seen: raster, faults };
}
