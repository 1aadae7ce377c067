import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import type { CarriedData } from '@fennip/files';
import { captureExif, encodePicture } from '@fennip/files';
import type { CaptureData } from '@fennip/core/picture';
import type { Raster } from '@fennip/core/raster';
import sharp from 'sharp';
import { PICTURES_FOLDER } from './demo.ts';
import { tearCorner } from './faults/lostCorner.ts';
import { layStain } from './faults/layStain.ts';
import { layCrease, layFibres, layScratches, laySpecks, layTear } from './faults/printDamage.ts';
import { atFNumber, layDust, sensorDust } from './faults/sensorDust.ts';
import type { LaidFault } from './faults/truth.ts';
import { agePrint } from './film/ageing.ts';
import { blurLight } from './film/lens.ts';
import type { Film } from './film/toRaster.ts';
import { develop, expose } from './film/toRaster.ts';
import { finishWagon } from './pictures/finishWagon.ts';
import type { Shot } from './pictures/lineShoot.ts';
import { SHOTS } from './pictures/lineShoot.ts';
import type { SceneName } from './pictures/scenes.ts';
import { cachedLight } from './render/cachedLight.ts';
import type { TornScan } from './torn/scanPieces.ts';
import { scanPieces } from './torn/scanPieces.ts';
import type { TearOptions, TornPrint } from './torn/tearPrint.ts';
import { tearPrint } from './torn/tearPrint.ts';

/** A picture as it is kept: below this size a file needs no special storage. */
const MOST_BYTES = 4e6;
/** Seven more pictures of a shoot are kept smaller, the repository with them. */
const MOST_BYTES_OF_SHOT = 1.6e6;

interface Finished {
  readonly raster: Raster;
  readonly faults: readonly LaidFault[];
  /** For the scan of a torn print: how it was torn, and where its pieces lie. */
  readonly torn?: { readonly print: TornPrint; readonly placements: TornScan['placements'] };
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

/** The one dusty sensor of the line shoot. */
const SENSOR_DUST = sensorDust(72, 1881);
/** A shadow that takes less of the light than this at its middle cannot be seen in any picture. */
const LEAST_SEEN = 0.01;

/** A frame of the line shoot: the sensor's dust at its f-number over sky, wood and stone. */
const finishShot =
  (fNumber: number, seed: number): Plate['finish'] =>
  (light, width, height) => {
    const film: Film = { exposure: 0.86, vignette: 0.32, grain: 0.007, channels: 3, depth: 8, seed };
    blurLight(light, width, height, 0.75);
    expose(light, width, height, film);
    const shadows = SENSOR_DUST.map((particle) => atFNumber(particle, fNumber));
    const faults = layDust({ light, width, height }, shadows);
    return {
      raster: develop(light, width, height, film),
      faults: faults.filter(({ depth }) => depth >= LEAST_SEEN),
    };
  };

/** The opening day, as it came out of an album: aged first, then hurt. */
function finishPrint(light: Float32Array, width: number, height: number): Finished {
  const film: Film = { exposure: 1, vignette: 0.25, grain: 0.022, channels: 1, depth: 16, seed: 9 };
  blurLight(light, width, height, 1);
  expose(light, width, height, film);
  agePrint(light, width, height, 46);
  const sheet = { light, width, height };
  const faults = [
    layStain(sheet, 330, 470, 120, 3),
    ...layScratches(sheet, 9, 41),
    layCrease(sheet, [-10, 1060], [width + 10, 930], 17),
    ...layFibres(sheet, 5, 23),
    ...laySpecks(sheet, 170, 29),
    tearCorner(sheet, 150),
    layTear(sheet, [width + 6, 690], [905, 806], 12),
    layTear(sheet, [690, -6], [640, 250], 31),
  ];
  blurLight(light, width, height, 0.55);
  return { raster: develop(light, width, height, { ...film, grain: 0.006 }), faults };
}

/** A print of the archive, aged, torn and scanned as loose pieces on the scanner's white lid. */
const finishTorn =
  (channels: 1 | 3, tear: TearOptions): Plate['finish'] =>
  (light, width, height) => {
    const film: Film = { exposure: 1, vignette: 0.25, grain: 0.016, channels, depth: 8, seed: tear.seed };
    blurLight(light, width, height, 0.8);
    expose(light, width, height, film);
    agePrint(light, width, height, 34);
    const picture = develop(light, width, height, { ...film, grain: 0.005 });
    const print = tearPrint(width, height, tear);
    const { scan, placements } = scanPieces(picture, print, {
      ...{ seed: tear.seed, ground: 0.94, turn: 0.5, noise: 0.004 },
    });
    return { raster: scan, faults: [], torn: { print, placements } };
  };

const CAMERA = 'Halden M2';

/** A frame that the camera wrote at half its size. */
const shotPlate = (scene: keyof typeof SHOTS): Plate => {
  const { number, fNumber, exposureTime, at }: Shot = SHOTS[scene];
  return {
    scene,
    file: `viaduct-line-shoot-${number}.jpg`,
    ...{ width: 3000, height: 2000, rays: 1 },
    capture: {
      ...{ camera: CAMERA, lens: 'Halden 28 mm', fNumber, exposureTime, iso: 100, focalLengthMm: 28 },
      takenAt: `2026-05-17T${at}`,
    },
    finish: finishShot(fNumber, number),
  };
};

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
    scene: 'lineShoot6',
    file: 'valley-torn-in-two.tif',
    ...{ width: 1350, height: 900, rays: 2, density: 300 },
    finish: finishTorn(1, { pieces: 2, fibre: 9, crumbs: 0, seed: 1906 }),
  },
  {
    scene: 'lineShoot8',
    file: 'viaduct-torn-in-four.tif',
    ...{ width: 1350, height: 900, rays: 2, density: 300 },
    finish: finishTorn(3, { pieces: 4, fibre: 11, crumbs: 1, seed: 1911 }),
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
    finish: finishShot(16, 3),
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
  ...(Object.keys(SHOTS) as (keyof typeof SHOTS)[]).map(shotPlate),
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
async function encodeSmall(
  { file, density, scene }: Plate,
  raster: Raster,
  carried: CarriedData,
): Promise<Buffer> {
  if (file.endsWith('.tif'))
    return encodePicture(
      raster,
      { ...carried, ...(density ? { density } : {}) },
      { format: 'tiff', quality: 100, depth: raster.depth },
    );
  const most = scene in SHOTS ? MOST_BYTES_OF_SHOT : MOST_BYTES;
  for (let quality = 93; quality > 60; quality--) {
    const bytes = await encodePicture(
      raster,
      { ...carried, density: 300 },
      { format: 'jpeg', quality, depth: 8 },
    );
    if (bytes.length < most) return bytes;
  }
  throw new Error(`${file} does not get below ${most} bytes`);
}

async function renderPlate(plate: Plate, cache: string): Promise<void> {
  const { scene, file, width, height, rays, capture } = plate;
  const light = await cachedLight(cache, scene, { width, height, rays });
  const { raster, faults, torn } = plate.finish(Float32Array.from(light), width, height);
  const carried: CarriedData = capture ? { icc: await srgbProfile(), exif: captureExif(capture) } : {};
  const bytes = await encodeSmall(plate, raster, carried);
  await mkdir(PICTURES_FOLDER, { recursive: true });
  await writeFile(join(PICTURES_FOLDER, file), bytes);
  const picture = { width: raster.width, height: raster.height, depth: raster.depth };
  const truth = { picture, faults, ...(torn ? { torn } : {}) };
  await writeFile(join(PICTURES_FOLDER, `${file}.truth.json`), `${JSON.stringify(truth)}\n`);
  console.log(`${file}: ${(bytes.length / 1e6).toFixed(1)} MB, ${faults.length} faults`);
}

const { values } = parseArgs({
  options: { only: { type: 'string' }, cache: { type: 'string', default: '.fennip/light' } },
});
for (const plate of PLATES)
  if (values.only === undefined || values.only === plate.scene || values.only === plate.file)
    await renderPlate(plate, values.cache);
