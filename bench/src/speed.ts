import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Lamp } from '@fennip/core/lamp';
import type { Depth, Plane, Raster } from '@fennip/core/raster';
import { medianFilter } from '@fennip/core/bench';
import { EXAMINE_DEFAULTS, examinePicture } from '@fennip/core/examine';
import { growByLikeness, likenessPlanes } from '@fennip/core/fence';
import { applyLamp, lampReach } from '@fennip/core/lamp';
import { applyMend, canvasOf, proposeMend, proposeMends } from '@fennip/core/mend';
import {
  TILE_SIZE,
  cloneRaster,
  growRect,
  halveRaster,
  pixelsOf,
  sharedRaster,
  viewRaster,
} from '@fennip/core/raster';
import { emptyRecipe } from '@fennip/core/recipe';
import { decodePicture, encodePicture } from '@fennip/files';
import { findAmongThreads, renderAmongThreads, shareAmongThreads, startThreads } from '@fennip/cli';
import { roughly, specked } from './damage.ts';
import { inpaint, loadOpenCv } from './peers.ts';
import type { MedianTask } from './medianThreads.ts';
import { startMedianThreads } from './medianThreads.ts';
import type { Row } from './report.ts';
import { printTable, timed, timedInTurns } from './report.ts';

const FRAME = join(
  fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url)),
  'viaduct-line-shoot-3.jpg',
);

const DISC = { shape: 'disc' as const, x: 200, y: 200, r: 24 };

/** Heal and recover of a disc of 24 pixels from a click to new pixels, against Telea's fill of the same disc. */
async function discRows(frame: Raster): Promise<Row[]> {
  const { cv } = await loadOpenCv();
  const part = cloneRaster(viewRaster(frame, { left: 2000, top: 2300, width: 400, height: 400 }));
  const inside = Uint8Array.from({ length: 160_000 }, (_, i) =>
    Math.hypot((i % 400) + 0.5 - 200, Math.floor(i / 400) + 0.5 - 200) < 24 ? 1 : 0,
  );
  const pixels = pixelsOf(part);
  const mendBy = (method: 'heal' | 'recover') => (): void => {
    const wish = { id: 'm', target: DISC, margin: 2, polarity: 'dark' as const };
    const { mend } = proposeMend(wish, { avoid: [], used: [] }, pixels, method);
    applyMend(mend, canvasOf(pixels));
  };
  const heal = await timed(9, mendBy('heal'));
  const recover = await timed(9, mendBy('recover'));
  const peer = await timed(9, () => inpaint(cv, part, inside, 'telea'));
  return [
    ['heal of a 24-pixel disc, to Telea', heal, peer, heal / peer],
    ['recover of a 24-pixel disc, to Telea', recover, peer, recover / peer],
  ];
}

async function examineRows(frame: Raster): Promise<Row[]> {
  const { cv } = await loadOpenCv();
  const channel = new cv.Mat(frame.height, frame.width, cv.CV_32FC1);
  const out = new cv.Mat();
  const threads = startThreads();
  try {
    const [peer, together, alone] = await timedInTurns(7, [
      () => cv.boxFilter(channel, out, cv.CV_32F, new cv.Size(15, 15)),
      () => findAmongThreads(threads, frame, 'frame'),
      () => examinePicture(pixelsOf(frame), { ...EXAMINE_DEFAULTS, polarities: ['dark'] }, 'frame'),
    ]);
    return [
      ['examine 24 megapixels on one thread, to a 15 x 15 box', alone, peer, alone / peer],
      ['examine 24 megapixels in all threads, to a 15 x 15 box', together, peer, together / peer],
    ];
  } finally {
    await threads.close();
    channel.delete();
    out.delete();
  }
}

async function mendRows(frame: Raster): Promise<Row[]> {
  const threads = startThreads();
  try {
    const times: number[] = [];
    for (const count of [1000, 2000]) {
      const { seen: own, faults } = specked(frame, count, count);
      // As a decoded picture lies: in memory that threads share.
      const seen = sharedRaster(own);
      const wanted = roughly({ faults }, count);
      // The threads stand and know their work, as those of the application do after the first mends.
      await shareAmongThreads(threads, wanted.slice(0, 200), seen, undefined, 'auto');
      const start = performance.now();
      const mends = await shareAmongThreads(threads, wanted, seen, undefined, 'auto');
      await renderAmongThreads(threads, seen, { ...emptyRecipe(seen), mends });
      times.push(performance.now() - start);
    }
    return [
      ['mend 1,000 specks, to the 4 s it may take', times[0], 4000, times[0] / 4000],
      ['mend 2,000 specks, to 1,000', times[1], times[0], times[1] / times[0]],
    ];
  } finally {
    await threads.close();
  }
}

/** Delivery with 500 mends, against decoding and encoding the same file and nothing else. */
async function deliverRow(frame: Raster): Promise<Row> {
  const { seen, faults } = specked(frame, 500, 500);
  const mends = proposeMends(roughly({ faults }, 500), pixelsOf(seen));
  const recipe = { ...emptyRecipe(frame), mends };
  const settings = { format: 'jpeg', quality: 92, depth: 8 } as const;
  const threads = startThreads();
  // The threads stand and know their work, as those of the server do after the first delivery.
  await renderAmongThreads(threads, seen, recipe);
  const own = await timed(3, async () => {
    const { raster, header } = await decodePicture(FRAME);
    await encodePicture(await renderAmongThreads(threads, raster, recipe), header, settings);
  });
  await threads.close();
  const { default: sharp } = await import('sharp');
  const peer = await timed(3, async () => {
    const { data, info } = await sharp(FRAME, { ignoreIcc: true })
      .raw()
      .toBuffer({ resolveWithObject: true });
    const raw = { width: info.width, height: info.height, channels: info.channels };
    await sharp(data, { raw }).jpeg({ quality: 92, chromaSubsampling: '4:4:4' }).toBuffer();
  });
  return ['deliver 24 megapixels with 500 mends, to decode and encode', own, peer, own / peer];
}

/** What is in sight at 1:1 on a screen of 1280 x 800: six tiles, and what a lamp may take for all of them. */
const SCREEN = { columns: 3, rows: 2 };
const LAMP_MS = 100;
const LAMPS: readonly Lamp[] = [
  { kind: 'negative' },
  { kind: 'contrast', strength: 1.2 },
  { kind: 'raking', direction: 1, strength: 1.5 },
  { kind: 'departure', scale: 16, least: 0.01 },
  { kind: 'finish', tone: { black: 0.1, white: 0.9, gamma: 1.2 } },
];

/** All tiles of a screen under a lamp, one after the other as the painting worker does it. */
async function lampRows(frame: Raster): Promise<Row[]> {
  const rows: Row[] = [];
  for (const lamp of LAMPS) {
    const reach = lampReach(lamp, 0);
    const own = await timed(5, () => {
      for (let k = 0; k < SCREEN.columns * SCREEN.rows; k++) {
        const left = 1024 + TILE_SIZE * (k % SCREEN.columns);
        const top = 1024 + TILE_SIZE * Math.floor(k / SCREEN.columns);
        const rect = growRect({ left, top, width: TILE_SIZE, height: TILE_SIZE }, reach);
        applyLamp(viewRaster(frame, rect), lamp, { level: 0, left: rect.left, top: rect.top });
      }
    });
    rows.push([`${lamp.kind} lamp over a screen, to the 100 ms it may take`, own, LAMP_MS, own / LAMP_MS]);
  }
  return rows;
}

/** Two threads share a picture in halves; what each needs of the other's is not worth counting. */
async function medianOnThreads(
  run: (task: MedianTask) => Promise<number>,
  plane: Plane,
  { width, depth, radius }: Pick<MedianTask, 'width' | 'depth' | 'radius'>,
): Promise<void> {
  const height = plane.length / width;
  const half = height >> 1;
  const filter = (from: number, to: number): Promise<unknown> =>
    run({ plane: plane.subarray(from * width, to * width), width, height: to - from, depth, radius });
  await Promise.all([filter(0, Math.min(height, half + radius)), filter(Math.max(0, half - radius), height)]);
}

/** The rank filter on one channel of 24 megapixels, against the peer's median of 8 bit. */
async function medianRows(frame: Raster): Promise<Row[]> {
  const { cv } = await loadOpenCv();
  const { width, height } = frame;
  const plane = frame.planes[1];
  const shared = new Uint8Array(new SharedArrayBuffer(plane.length));
  shared.set(plane);
  const wide = new Uint16Array(new SharedArrayBuffer(2 * plane.length));
  for (let i = 0; i < wide.length; i++) wide[i] = plane[i] * 257;
  const channel = cv.matFromArray(height, width, cv.CV_8UC1, plane as never);
  const out = new cv.Mat();
  const peer = await timed(3, () => cv.medianBlur(channel, out, 21));
  const threads = startMedianThreads();
  const own = async (from: Plane, depth: Depth, radius: number): Promise<number> =>
    timed(3, () => medianOnThreads(threads.filter, from, { width, depth, radius }));
  const [eight, sixteen] = [await own(shared, 8, 10), await own(wide, 16, 10)];
  const [small, large] = [await own(shared, 8, 4), await own(shared, 8, 40)];
  const alone = await timed(3, () => medianFilter({ plane, width, height, stride: width, depth: 8 }, 10));
  await threads.stop();
  return [
    ['median, radius 10, 8 bit, two threads, to the 8-bit peer', eight, peer, eight / peer],
    ['the same of 16 bit', sixteen, peer, sixteen / peer],
    ['the same of 8 bit on one thread', alone, peer, alone / peer],
    ['radius 40, to radius 4', large, small, large / small],
  ];
}

/** Growing an area from a touch on 24 megapixels: what is waited for, on the level it is grown on. */
async function likenessRow(frame: Raster): Promise<Row> {
  let level = frame;
  while (level.width > 1000) level = halveRaster(level);
  const planes = likenessPlanes(level);
  const { width } = level;
  const pixels = Array.from({ length: 25 }, (_, k) => (90 + Math.floor(k / 5)) * width + 200 + (k % 5));
  const own = await timed(5, () => growByLikeness(planes, [{ takes: 'in', pixels }], 1));
  return ['an area from a touch on 24 megapixels, to the 150 ms it may take', own, 150, own / 150];
}

/** Speed as a ratio to a peer in the same run. */
export async function benchSpeed(): Promise<void> {
  const { raster } = await decodePicture(FRAME);
  const rows = [
    ...(await lampRows(raster)),
    ...(await medianRows(raster)),
    await likenessRow(raster),
    ...(await discRows(raster)),
    ...(await mendRows(raster)),
    await deliverRow(raster),
    ...(await examineRows(raster)),
  ];
  printTable('Speed', ['what', 'ms', 'peer ms', 'ratio'], rows);
}
