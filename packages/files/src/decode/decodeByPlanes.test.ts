import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Depth } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import sharp from 'sharp';
import { encodePicture } from '../encode/encodePicture.ts';
import type { FlatFormat } from '../write/writers.ts';
import { decodeByPlanes, decodePicture, layoutOf } from './decodePicture.ts';

let folder: string;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-planes-'));
});
afterAll(() => rm(folder, { recursive: true }));

async function written(format: FlatFormat, channels: number, depth: Depth): Promise<string> {
  const raster = createRaster(61, 43, channels, depth);
  raster.planes.forEach((plane, channel) => {
    for (let i = 0; i < plane.length; i++)
      plane[i] = (i * 37 + channel * 9001) % (depth === 16 ? 65536 : 256);
  });
  const path = join(folder, `${channels}-${depth}.${format}`);
  const bytes = await encodePicture(raster, {}, { format, depth, quality: 95 });
  await writeFile(path, bytes);
  return path;
}

describe('a picture that is decoded plane by plane', () => {
  it.each(
    (['png', 'tiff', 'jpeg', 'webp'] as const).flatMap((format) =>
      (format === 'png' || format === 'tiff' ? [1, 2, 3, 4] : [3]).flatMap((channels) =>
        (format === 'png' || format === 'tiff' ? ([8, 16] as const) : ([8] as const)).map((depth) => ({
          format,
          channels,
          depth,
        })),
      ),
    ),
  )('has the values of one decoded at once: $format, $channels channels, $depth bit', async (kind) => {
    const path = await written(kind.format, kind.channels, kind.depth);
    const { header, raster } = await decodePicture(path);
    expect(await decodeByPlanes(path, 0, header, layoutOf(header))).toEqual(raster);
  });

  it.each(['cmyk.jpg', 'turned.jpg'])('is turned upright and into colours as well: %s', async (name) => {
    const path = join(folder, name);
    const pixels = Buffer.from(Array.from({ length: 60 * 40 * 3 }, (_, i) => (i * 7) % 256));
    const colours = sharp(pixels, { raw: { width: 60, height: 40, channels: 3 } });
    await (name === 'cmyk.jpg' ? colours.toColourspace('cmyk') : colours.withMetadata({ orientation: 6 }))
      .jpeg()
      .toFile(path);
    const { header, raster } = await decodePicture(path);
    expect([header.width, header.isCmyk]).toEqual(name === 'cmyk.jpg' ? [60, true] : [40, false]);
    expect(await decodeByPlanes(path, 0, header, layoutOf(header))).toEqual(raster);
  });
});
