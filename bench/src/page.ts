import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Raster, Rect } from '@fennip/core/raster';
import { createRaster, copyRaster, viewRaster } from '@fennip/core/raster';
import sharp from 'sharp';
import type { Damaged } from './damage.ts';

/** Crops of one place, side by side. */
export interface CropRow {
  readonly title: string;
  readonly cells: readonly { readonly name: string; readonly raster: Raster }[];
}

/** Pixels of the picture across a crop of a spot. */
const SPOT_SIDE = 64;
/** Screen pixels across a crop. */
const SHOWN = 192;
/** Places shown of each scene: the largest faults tell most. */
const PLACES = 2;

function cropAt(raster: Raster, rect: Rect): Raster {
  const crop = createRaster(rect.width, rect.height, 3, 8);
  copyRaster(viewRaster(raster, rect), crop, 0, 0);
  return crop;
}

/**
 * Before, mended, the peer's fill, the truth, at the places of the largest faults.
 * @param side pixels of the picture across a crop
 */
export function cropRows(
  title: string,
  damaged: Damaged,
  mended: Raster,
  peer: Raster,
  side = SPOT_SIDE,
): CropRow[] {
  const { seen, clean, faults } = damaged;
  const fits = (at: number, length: number): number =>
    Math.min(length - side, Math.max(0, Math.round(at - side / 2)));
  return [...faults]
    .sort((a, b) => b.r * b.depth - a.r * a.depth)
    .slice(0, PLACES)
    .map(({ x, y }) => {
      const rect = { left: fits(x, seen.width), top: fits(y, seen.height), width: side, height: side };
      const cells = Object.entries({ before: seen, mended, peer, truth: clean });
      return { title, cells: cells.map(([name, raster]) => ({ name, raster: cropAt(raster, rect) })) };
    });
}

async function asDataUri(raster: Raster): Promise<string> {
  const { width, height, planes } = raster;
  const data = Buffer.alloc(width * height * 3);
  for (let i = 0; i < width * height; i++) for (let c = 0; c < 3; c++) data[3 * i + c] = planes[c][i];
  const png = await sharp(data, { raw: { width, height, channels: 3 } })
    .resize(SHOWN, Math.round((SHOWN * height) / width), { kernel: 'nearest' })
    .png()
    .toBuffer();
  return `data:image/png;base64,${png.toString('base64')}`;
}

/** Writes a page of enlarged crops and says where it is. */
export async function writePage(rows: readonly CropRow[], name = 'crops.html'): Promise<string> {
  const folder = fileURLToPath(new URL('../../.fennip/bench', import.meta.url));
  await mkdir(folder, { recursive: true });
  const figures = await Promise.all(
    rows.map(async ({ title, cells }) => {
      const images = await Promise.all(
        cells.map(
          async ({ name, raster }) =>
            `<figure><img src="${await asDataUri(raster)}" alt="${name}"><figcaption>${name}</figcaption></figure>`,
        ),
      );
      return `<section><h2>${title}</h2>${images.join('')}</section>`;
    }),
  );
  const style =
    'body{background:#777;color:#fff;font:13px sans-serif}section{display:inline-block;margin:6px}' +
    'figure{display:inline-block;margin:2px}h2{font-size:13px;margin:2px}img{display:block}';
  const path = join(folder, name);
  await writeFile(
    path,
    `<!doctype html><meta charset="utf-8"><title>Mended</title><style>${style}</style>${figures.join('')}`,
  );
  return path;
}
