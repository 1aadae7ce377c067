import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Raster } from '@fennip/core';
import {
  EXAMINE_DEFAULTS,
  applyMend,
  cloneRaster,
  emptyRecipe,
  examinePicture,
  mulberry,
  pixelsOf,
  proposeMend,
  proposeMends,
  renderRecipe,
  viewRaster,
} from '@fennip/core';
import { decodePicture, encodePicture } from '@fennip/files';
import { inpaint, loadOpenCv } from './peers.ts';
import type { Row } from './report.ts';
import { printTable, timed } from './report.ts';

const FRAME = join(
  fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url)),
  'viaduct-line-shoot-3.jpg',
);

/** A heal with source search of a disc of 24 pixels, against Telea's fill of the same disc in the same window. */
async function healRow(frame: Raster): Promise<Row> {
  const { cv } = await loadOpenCv();
  const part = cloneRaster(viewRaster(frame, { left: 2000, top: 2300, width: 400, height: 400 }));
  const inside = Uint8Array.from({ length: 160_000 }, (_, i) =>
    Math.hypot((i % 400) + 0.5 - 200, Math.floor(i / 400) + 0.5 - 200) < 24 ? 1 : 0,
  );
  const pixels = pixelsOf(part);
  const target = { shape: 'disc' as const, x: 200, y: 200, r: 24 };
  const own = await timed(9, () => {
    const { mend } = proposeMend({ id: 'm', target, margin: 2 }, { avoid: [], used: [] }, pixels);
    applyMend(mend, pixels);
  });
  const peer = await timed(9, () => inpaint(cv, part, inside, 'telea'));
  return ['heal of a 24-pixel disc, to Telea', own, peer, own / peer];
}

async function examineRow(frame: Raster): Promise<Row> {
  const { cv } = await loadOpenCv();
  const channel = new cv.Mat(frame.height, frame.width, cv.CV_32FC1);
  const out = new cv.Mat();
  const peer = await timed(3, () => cv.boxFilter(channel, out, cv.CV_32F, new cv.Size(15, 15)));
  channel.delete();
  out.delete();
  const own = await timed(1, () =>
    examinePicture(pixelsOf(frame), { ...EXAMINE_DEFAULTS, polarities: ['dark'] }),
  );
  return ['examine 24 megapixels on one thread, to a 15 x 15 box', own, peer, own / peer];
}

/** Specks all over a frame. */
function specks(
  frame: Raster,
  count: number,
): { id: string; x: number; y: number; r: number; softness: number }[] {
  const uniform = mulberry(count);
  return Array.from({ length: count }, (_, i) => ({
    id: `m${i}`,
    x: uniform() * frame.width,
    y: uniform() * frame.height,
    r: 3 + 8 * uniform(),
    softness: 0.4,
  }));
}

async function mendRows(frame: Raster): Promise<Row[]> {
  const times: number[] = [];
  for (const count of [1000, 2000]) {
    const copy = cloneRaster(frame);
    const start = performance.now();
    const mends = proposeMends(specks(frame, count), pixelsOf(copy));
    renderRecipe(copy, { ...emptyRecipe(copy), mends });
    times.push(performance.now() - start);
  }
  return [
    ['mend 1,000 specks, to the 4 s it may take', times[0], 4000, times[0] / 4000],
    ['mend 2,000 specks, to 1,000', times[1], times[0], times[1] / times[0]],
  ];
}

/** Delivery with 500 mends, against decoding and encoding the same file and nothing else. */
async function deliverRow(frame: Raster): Promise<Row> {
  const recipe = { ...emptyRecipe(frame), mends: proposeMends(specks(frame, 500), pixelsOf(frame)) };
  const settings = { format: 'jpeg', quality: 92, depth: 8 } as const;
  const own = await timed(3, async () => {
    const { raster, header } = await decodePicture(FRAME);
    renderRecipe(raster, recipe);
    await encodePicture(raster, header, settings);
  });
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

/** Speed as a ratio to a peer in the same run. */
export async function benchSpeed(): Promise<void> {
  const { raster } = await decodePicture(FRAME);
  const rows = [
    await healRow(raster),
    ...(await mendRows(raster)),
    await deliverRow(raster),
    await examineRow(raster),
  ];
  printTable('Speed', ['what', 'ms', 'peer ms', 'ratio'], rows);
}
