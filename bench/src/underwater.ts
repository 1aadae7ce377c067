import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Mend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { EXAMINE_DEFAULTS, examinePicture } from '@fennip/core/examine';
import { measureGrainModel } from '@fennip/core/grain';
import { proposeMends } from '@fennip/core/mend';
import { cloneRaster, pixelsOf, viewRaster } from '@fennip/core/raster';
import { emptyRecipe, renderRecipe } from '@fennip/core/recipe';
import { decodePicture } from '@fennip/files';
import { cachedLight, finishCleanWagon } from '@fennip/scenes';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

const SCENES = fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url));
const FILE = 'wagon-in-the-quarry.jpg';
/** Where the demo's light is kept; rendering it takes some minutes. */
const LIGHT = fileURLToPath(new URL('../../.fennip/light', import.meta.url));

interface Laid {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** 1 on all that a particle covers, with its soft border. */
function damagedPixels(faults: readonly Laid[], width: number, height: number): Uint8Array {
  const inside = new Uint8Array(width * height);
  for (const { x, y, r } of faults) {
    const reach = 1.4 * r + 1;
    for (let py = Math.max(0, Math.floor(y - reach)); py < Math.min(height, y + reach); py++)
      for (let px = Math.max(0, Math.floor(x - reach)); px < Math.min(width, x + reach); px++)
        if (Math.hypot(px + 0.5 - x, py + 0.5 - y) < reach) inside[py * width + px] = 1;
  }
  return inside;
}

/** PSNR in dB over the pixels of one side. */
function psnrOn(one: Raster, clean: Raster, inside: Uint8Array, side: 0 | 1): number {
  let [sum, count] = [0, 0];
  one.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++) {
      if (inside[i] !== side) continue;
      sum += (plane[i] - clean.planes[c][i]) ** 2;
      count++;
    }
  });
  return 10 * Math.log10((255 ** 2 * count) / sum);
}

/** The demo's wagon cleaned of its particles, against the scene without them. */
export async function benchUnderwater(): Promise<void> {
  const { raster } = await decodePicture(join(SCENES, FILE));
  const { width, height } = raster;
  const light = await cachedLight(LIGHT, 'wagon', { width, height, rays: 1 });
  const clean = finishCleanWagon(Float32Array.from(light), width, height);
  const { faults } = JSON.parse(await readFile(join(SCENES, `${FILE}.truth.json`), 'utf8')) as {
    faults: Laid[];
  };
  const damaged = damagedPixels(faults, width, height);
  const { noise } = measureGrainModel(
    cloneRaster(viewRaster(raster, { left: 512, top: 512, width: 2048, height: 2048 })),
  );
  const corners = [
    [0, 0],
    [width, 0],
    [width, height],
    [0, height],
  ] as const;
  const sift: Mend = {
    ...{ id: 'sift', method: 'sift', target: { shape: 'outline', points: corners } },
    ...{ margin: 0, edge: 0, share: 1, on: true },
    ...{ radius: 10, threshold: 4, polarity: 'bright', detail: 60, noise },
  };
  const found = examinePicture(pixelsOf(raster), EXAMINE_DEFAULTS, 'frame');
  const mends = proposeMends(
    found.map((fault, k) => ({ ...fault, id: `m${k}` })),
    pixelsOf(raster),
  );
  const row = (name: string, all: readonly Mend[]): Row => {
    const copy = cloneRaster(raster);
    renderRecipe(copy, { ...emptyRecipe(raster), mends: all });
    return [name, psnrOn(copy, clean, damaged, 1), psnrOn(copy, clean, damaged, 0)];
  };
  printTable(
    'Underwater: the demo wagon, PSNR in dB against the scene without particles',
    ['what', 'where particles lie', 'elsewhere'],
    [
      row('as it came in', []),
      row('sift, radius 10, 4 times the noise', [sift]),
      row('every found speck mended', mends),
      row('both', [...mends, sift]),
    ],
  );
}
