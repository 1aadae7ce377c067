import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import type { CarriedData } from '@fennip/files';
import { captureExif, encodePicture } from '@fennip/files';
import type { CaptureData, Raster } from '@fennip/core';
import sharp from 'sharp';
import { PICTURES_FOLDER } from './demo.ts';
import { tearCorner } from './faults/lostCorner.ts';
import { layCrease, layFibres, layScratches, laySpecks } from './faults/printDamage.ts';
import { layDust, sensorDust } from './faults/sensorDust.ts';
import type { LaidFault } from './faults/truth.ts';
import { agePrint } from './film/ageing.ts';
import { blurLight } from './film/lens.ts';
import type { Film } from './film/toRaster.ts';
import { develop, expose } from './film/toRaster.ts';
import { finishWagon } from './pictures/finishWagon.ts';
import type { SceneName } from './pictures/scenes.ts';
import { cachedLight } from './render/cachedLight.ts';

/** A picture as it is kept: below this size a file needs no special storage. */
const MOST_BYTES = 4e6;

interface Finished {
  readonly raster: Raster;
  readonly faults: readonly LaidFault[];
}

interface Plate {
  readonly scene: SceneName;
  readonly file: string;
  readonly width: number;
  readonly height: number;
  readonly rays: number;
  readonly capture?: CaptureData;
  readonly density?: number;
  readonly finish: (light: Float32Array, width: number, height: number) => Finished;
}

/** A frame of the line shoot: dust at f/16 over sky and stone. */
function finishViaduct(light: Float32Array, width: number, height: number): Finished {
  const film: Film = { exposure: 0.86, vignette: 0.32, grain: 0.007, channels: 3, depth: 8, seed: 3 };
  blurLight(light, width, height, 0.75);
  expose(light, width, height, film);
  const faults = layDust({ light, width, height }, sensorDust(72, 1881));
  return { raster: develop(light, width, height, film), faults };
}

/** The opening day, as it came out of an album: aged first, then hurt. */
function finishPrint(light: Float32Array, width: number, height: number): Finished {
  const film: Film = { exposure: 1, vignette: 0.25, grain: 0.022, channels: 1, depth: 16, seed: 9 };
  blurLight(light, width, height, 1);
  expose(light, width, height, film);
  agePrint(light, width, height, 46);
  const sheet = { light, width, height };
  const faults = [
    ...layScratches(sheet, 9, 41),
    layCrease(sheet, [-10, 1060], [width + 10, 930], 17),
    ...layFibres(sheet, 5, 23),
    ...laySpecks(sheet, 170, 29),
    tearCorner(sheet, 150),
  ];
  blurLight(light, width, height, 0.55);
  return { raster: develop(light, width, height, { ...film, grain: 0.006 }), faults };
}

const CAMERA = 'Halden M2';

const PLATES: readonly Plate[] = [
  {
    scene: 'openingDay',
    file: 'opening-day-print.tif',
    width: 1200,
    height: 1800,
    rays: 2,
    density: 300,
    finish: finishPrint,
  },
  {
    scene: 'viaduct',
    file: 'viaduct-line-shoot-3.jpg',
    width: 6000,
    height: 4000,
    rays: 1,
    capture: {
      camera: CAMERA,
      lens: 'Halden 28 mm',
      fNumber: 16,
      exposureTime: 0.008,
      iso: 100,
      focalLengthMm: 28,
      takenAt: '2026-05-17T09:42:11',
    },
    finish: finishViaduct,
  },
  {
    scene: 'wagon',
    file: 'wagon-in-the-quarry.jpg',
    width: 4000,
    height: 3000,
    rays: 1,
    capture: {
      camera: 'Halden D1',
      lens: 'Halden 20 mm',
      fNumber: 8,
      exposureTime: 0.01,
      iso: 400,
      focalLengthMm: 20,
      takenAt: '2026-06-03T14:20:36',
    },
    finish: finishWagon,
  },
];

/** The profile that says sRGB, as the imaging library ships it. */
async function srgbProfile(): Promise<Buffer> {
  const dot = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#808080' } })
    .withIccProfile('srgb')
    .png()
    .toBuffer();
  const { icc } = await sharp(dot).metadata();
  if (!icc) throw new Error('the imaging library ships no sRGB profile');
  return icc;
}

/** Encodes so that the file stays small; a JPEG as good as fits. */
async function encodeSmall({ file, density }: Plate, raster: Raster, carried: CarriedData): Promise<Buffer> {
  if (file.endsWith('.tif'))
    return encodePicture(
      raster,
      { ...carried, ...(density ? { density } : {}) },
      { format: 'tiff', quality: 100, depth: 16 },
    );
  for (let quality = 93; quality > 60; quality--) {
    const bytes = await encodePicture(
      raster,
      { ...carried, density: 300 },
      { format: 'jpeg', quality, depth: 8 },
    );
    if (bytes.length < MOST_BYTES) return bytes;
  }
  throw new Error(`${file} does not get below ${MOST_BYTES} bytes`);
}

async function renderPlate(plate: Plate, cache: string): Promise<void> {
  const { scene, file, width, height, rays, capture } = plate;
  const light = await cachedLight(cache, scene, { width, height, rays });
  const { raster, faults } = plate.finish(Float32Array.from(light), width, height);
  const carried: CarriedData = capture ? { icc: await srgbProfile(), exif: captureExif(capture) } : {};
  const bytes = await encodeSmall(plate, raster, carried);
  await mkdir(PICTURES_FOLDER, { recursive: true });
  await writeFile(join(PICTURES_FOLDER, file), bytes);
  const truth = { picture: { width, height, depth: raster.depth }, faults };
  await writeFile(join(PICTURES_FOLDER, `${file}.truth.json`), `${JSON.stringify(truth)}\n`);
  console.log(`${file}: ${(bytes.length / 1e6).toFixed(1)} MB, ${faults.length} faults`);
}

const { values } = parseArgs({
  options: { only: { type: 'string' }, cache: { type: 'string', default: '.fennip/light' } },
});
for (const plate of PLATES)
  if (values.only === undefined || values.only === plate.scene) await renderPlate(plate, values.cache);
