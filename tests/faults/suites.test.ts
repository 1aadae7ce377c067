import { readFile, readdir } from 'node:fs/promises';
import { basename, join } from 'node:path';
import { PictureError, decodePicture } from '@fennip/files';
import { PNG } from 'pngjs';
import { describe, expect, it } from 'vitest';
import { isFull } from './extent.ts';
import { publicSuite } from './publicSuites.ts';

interface Values {
  readonly width: number;
  readonly height: number;
  readonly channels: number;
  /** Pixel after pixel. */
  readonly values: readonly number[];
}

async function ours(path: string): Promise<Values> {
  const { raster } = await decodePicture(path);
  const { width, height, planes } = raster;
  const values: number[] = [];
  for (let i = 0; i < width * height; i++) for (const plane of planes) values.push(plane[i]);
  return { width, height, channels: planes.length, values };
}

/** The same by pngjs 7, an independent decoder; of grey it takes one channel of three, of an opaque picture no alpha. */
async function theirs(path: string, channels: number): Promise<Values> {
  const bytes = await readFile(path);
  // The byte of the header that holds the depth (PNG, 11.2.2).
  const png = PNG.sync.read(bytes, { skipRescale: bytes[24] === 16 });
  const picked = channels === 4 ? [0, 1, 2, 3] : channels === 3 ? [0, 1, 2] : channels === 2 ? [0, 3] : [0];
  const values: number[] = [];
  for (let i = 0; i < png.data.length; i += 4) for (const k of picked) values.push(png.data[i + k]);
  return { width: png.width, height: png.height, channels, values };
}

/**
 * How many values differ between two pictures; all where their sides or channels do. What nobody sees is left out: pngjs
 * blackens what is wholly transparent, and we keep it.
 */
function differing(one: Values, other: Values): number {
  const isAlike = one.width === other.width && one.height === other.height && one.channels === other.channels;
  if (!isAlike) return Math.max(one.values.length, other.values.length);
  const { channels, values } = one;
  const alphaOf = (i: number): number => i - (i % channels) + channels - 1;
  const isHidden = (i: number): boolean => channels % 2 === 0 && values[alphaOf(i)] === 0 && i !== alphaOf(i);
  return values.filter((value, i) => value !== other.values[i] && !isHidden(i)).length;
}

describe.skipIf(!isFull)('files of public test suites', () => {
  it('of PNG (PngSuite, van Schaik) give the values that an independent decoder reads', async () => {
    const folder = join(publicSuite('png'), 'pngsuite');
    const files = (await readdir(folder)).filter((name) => name.endsWith('.png'));
    expect(files.length).toBeGreaterThan(30);
    for (const name of files) {
      const path = join(folder, name);
      const read = await ours(path);
      expect([name, differing(read, await theirs(path, read.channels))]).toEqual([name, 0]);
    }
  });

  it('whose pixels are broken on purpose are refused with a sentence', async () => {
    const folder = publicSuite('png');
    // The others lack something behind the last pixel, or hold colours that no pixel has.
    const outcomes = await Promise.all(
      ['invalid-crc32.png', 'invalid-zlib.png'].map((name) =>
        decodePicture(join(folder, name)).then(
          () => `${name}: taken`,
          (error: unknown) => (error instanceof PictureError ? 'refused' : `${name}: ${String(error)}`),
        ),
      ),
    );
    expect([...new Set(outcomes)]).toEqual(['refused']);
  });

  it('of TIFF and WebP that hold one drawing in many compressions give one picture', async () => {
    const folder = publicSuite('drawings');
    const groups = [
      ['bw-uncompressed.tiff', 'bw-deflate.tiff', 'bw-packbits.tiff'],
      ['bw-gopher_ccittGroup3.tiff', 'bw-gopher_ccittGroup4.tiff'],
      ['blue-purple-pink.lzwcompressed.tiff', 'blue-purple-pink.lossless.webp'],
    ];
    for (const group of groups) {
      const [first, ...others] = await Promise.all(group.map((name) => ours(join(folder, name))));
      expect(new Set(first.values).size, basename(group[0])).toBeGreaterThan(1);
      for (const [k, other] of others.entries())
        expect([group[k + 1], differing(first, other)]).toEqual([group[k + 1], 0]);
    }
  });
});
