// What we write, read by libraries that share no code with the one that wrote it; and what others write, read by us.
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { mulberry } from '@fennip/core/random';
import type { Depth, Raster } from '@fennip/core/raster';
import { createRaster, fullScale } from '@fennip/core/raster';
import ExifReader from 'exifreader';
import fc from 'fast-check';
import jpeg from 'jpeg-js';
import { PNG } from 'pngjs';
import UTIF from 'utif2';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { captureData, captureExif, decodePicture, encodePicture, readHeader, withHistory } from './index.ts';

let folder = '';
let files = 0;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-readers-'));
});
afterAll(() => rm(folder, { recursive: true }));

/** A picture of seeded noise over a slope, so that no value stands where another would do. */
function scene(width: number, height: number, channels: number, depth: Depth): Raster {
  const raster = createRaster(width, height, channels, depth);
  const uniform = mulberry(width * 7 + channels);
  const top = fullScale(depth);
  for (const plane of raster.planes)
    for (let i = 0; i < plane.length; i++)
      plane[i] = Math.round(top * (0.1 + (0.5 * (i % width)) / width + 0.4 * uniform()));
  return raster;
}
const sizes = { width: fc.integer({ min: 1, max: 37 }), height: fc.integer({ min: 1, max: 23 }) };
const lossless = (format: 'png' | 'tiff', depth: Depth) => ({ format, quality: 100, depth });

async function asFile(bytes: Uint8Array, ending: string): Promise<string> {
  const path = join(folder, `${files++}.${ending}`);
  await writeFile(path, bytes);
  return path;
}
const interleaved = ({ planes, width, height }: Raster): number[] =>
  Array.from(
    { length: width * height * planes.length },
    (_, i) => planes[i % planes.length][Math.floor(i / planes.length)],
  );

describe('a PNG', () => {
  // pngjs 7.0.0: an implementation of its own of ISO/IEC 15948.
  it('that we wrote holds every value, at 8 and 16 bits, grey and colour, for pngjs', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.record({ ...sizes, channels: fc.constantFrom(1, 3), depth: fc.constantFrom<Depth>(8, 16) }),
        async ({ width, height, channels, depth }) => {
          const raster = scene(width, height, channels, depth);
          const png = PNG.sync.read(await encodePicture(raster, {}, lossless('png', depth)), {
            skipRescale: true,
          });
          expect([png.width, png.height, png.depth]).toEqual([width, height, depth]);
          const data = png.data as unknown as ArrayLike<number>;
          for (let i = 0; i < width * height; i++)
            for (let c = 0; c < 3; c++)
              expect(data[4 * i + c]).toBe(raster.planes[channels === 1 ? 0 : c][i]);
        },
      ),
      { numRuns: 20 },
    );
  });

  it('that pngjs wrote is read by us value for value', async () => {
    const raster = scene(31, 17, 3, 8);
    const png = new PNG({ width: 31, height: 17, colorType: 2 });
    for (let i = 0; i < 31 * 17; i++) {
      for (let c = 0; c < 3; c++) png.data[4 * i + c] = raster.planes[c][i];
      png.data[4 * i + 3] = 255;
    }
    const { raster: read } = await decodePicture(await asFile(PNG.sync.write(png, { colorType: 2 }), 'png'));
    expect(interleaved(read)).toEqual(interleaved(raster));
  });
});

describe('a TIFF', () => {
  // utif2 4.1.0: an implementation of its own of TIFF 6.0.
  it('that we wrote holds every value for utif2, however it is packed', async () => {
    for (const depth of [8, 16] as const)
      for (const compression of ['none', 'lzw', 'deflate'] as const) {
        const raster = scene(33, 21, 3, depth);
        const bytes = await encodePicture(raster, { density: 300 }, {
          ...lossless('tiff', depth),
          compression,
        } as never);
        const [page] = UTIF.decode(bytes);
        UTIF.decodeImage(bytes, page);
        expect([page.width, page.height]).toEqual([33, 21]);
        const data = page.data as unknown as Uint8Array;
        const isLittle = bytes[0] === 0x49;
        const seen = interleaved(raster).map((_, i) => {
          if (depth === 8) return data[i];
          const [low, high] = isLittle ? [data[2 * i], data[2 * i + 1]] : [data[2 * i + 1], data[2 * i]];
          return low + 256 * high;
        });
        expect(seen).toEqual(interleaved(raster));
      }
  });

  it('that utif2 wrote is read by us value for value', async () => {
    const raster = scene(24, 18, 3, 8);
    const rgba = new Uint8Array(4 * 24 * 18).fill(255);
    for (let i = 0; i < 24 * 18; i++) for (let c = 0; c < 3; c++) rgba[4 * i + c] = raster.planes[c][i];
    const { raster: read } = await decodePicture(
      await asFile(new Uint8Array(UTIF.encodeImage(rgba, 24, 18)), 'tif'),
    );
    raster.planes.forEach((plane, c) => expect([...read.planes[c]]).toEqual([...plane]));
  });
});

describe('a JPEG', () => {
  // jpeg-js 0.4.4: an implementation of its own of ITU-T T.81.
  const smooth = (): Raster => {
    const raster = createRaster(64, 48, 3, 8);
    raster.planes.forEach((plane, c) => {
      for (let i = 0; i < plane.length; i++)
        plane[i] = Math.round(128 + 90 * Math.sin((i % 64) / 11 + c) * Math.cos(Math.floor(i / 64) / 9));
    });
    return raster;
  };

  it('that we wrote is read by jpeg-js as nearly what it was, and nearer the higher its quality', async () => {
    const raster = smooth();
    const errorAt = async (quality: number): Promise<number> => {
      const bytes = await encodePicture(raster, {}, { format: 'jpeg', quality, depth: 8 });
      const { data, width, height } = jpeg.decode(bytes, { useTArray: true, formatAsRGBA: false });
      expect([width, height]).toEqual([64, 48]);
      const own = interleaved(raster);
      return Math.sqrt(own.reduce((sum, value, i) => sum + (value - data[i]) ** 2, 0) / own.length);
    };
    const errors = [await errorAt(40), await errorAt(75), await errorAt(98)];
    expect([...errors].sort((a, b) => b - a)).toEqual(errors);
    expect(errors[2]).toBeLessThan(1.2);
  });

  it('that jpeg-js wrote is read by us as jpeg-js reads it, give or take rounding', async () => {
    const raster = smooth();
    const rgba = Buffer.alloc(4 * 64 * 48, 255);
    for (let i = 0; i < 64 * 48; i++) for (let c = 0; c < 3; c++) rgba[4 * i + c] = raster.planes[c][i];
    const { data: bytes } = jpeg.encode({ data: rgba, width: 64, height: 48 }, 92);
    const { raster: read } = await decodePicture(await asFile(bytes, 'jpg'));
    const { data } = jpeg.decode(bytes, { useTArray: true, formatAsRGBA: false });
    const differences = interleaved(read).map((value, i) => Math.abs(value - data[i]));
    expect(Math.max(...differences)).toBeLessThanOrEqual(3);
  });
});

describe('what a file says beside its pixels', () => {
  // ExifReader 4.32.0 reads Exif (CIPA DC-008), XMP (ISO 16684-1) and resolution by code of its own.
  const capture = {
    ...{ camera: 'Orrin Field 6', lens: 'Orrin 35 mm', takenAt: '2026-05-02T10:11:12' },
    ...{ fNumber: 11, exposureTime: 1 / 250, iso: 200, focalLengthMm: 35 },
  };

  it('is read by ExifReader from each format that carries it', async () => {
    const exif = captureExif(capture);
    const xmp = withHistory(undefined, { words: 'Healed 12 specks', when: '2026-05-02T10:11:12Z' });
    for (const format of ['jpeg', 'png', 'tiff', 'webp'] as const) {
      const bytes = await encodePicture(
        scene(40, 30, 3, 8),
        { exif, xmp, density: 300 },
        { format, quality: 90, depth: 8 },
      );
      const tags = ExifReader.load(bytes, { expanded: true });
      expect(tags.exif?.FNumber?.description, format).toBe('f/11.0');
      expect(String(tags.exif?.Model?.description), format).toContain('Orrin Field 6');
      expect(JSON.stringify(tags.xmp ?? {}), format).toContain('Healed 12 specks');
    }
  });

  it('that ExifReader and we read alike comes back as it went out', async () => {
    const exif = captureExif(capture);
    const bytes = await encodePicture(
      scene(20, 20, 3, 8),
      { exif },
      { format: 'jpeg', quality: 90, depth: 8 },
    );
    const header = await readHeader(await asFile(bytes, 'jpg'));
    const own = captureData(header.exif ?? Buffer.alloc(0));
    const tags = ExifReader.load(bytes, { expanded: true });
    expect(own).toMatchObject({ ...capture, exposureTime: expect.closeTo(1 / 250, 9) as number });
    const { Model, FNumber, ISOSpeedRatings, FocalLength, ExposureTime } = tags.exif ?? {};
    expect(String(Model?.description)).toBe(own.camera);
    expect(String(FNumber?.description)).toBe(`f/${own.fNumber?.toFixed(1)}`);
    expect(Number(ISOSpeedRatings?.value)).toBe(own.iso);
    expect(String(FocalLength?.description)).toBe(`${own.focalLengthMm} mm`);
    expect(String(ExposureTime?.description)).toBe('1/250');
  });
});

describe('a file that is cut short or shaken', () => {
  it('is read or refused, and never takes the reader down or hangs it', async () => {
    const whole = await encodePicture(scene(40, 30, 3, 8), {}, lossless('png', 8));
    await fc.assert(
      fc.asyncProperty(
        fc.record({
          cut: fc.integer({ min: 1, max: whole.length }),
          at: fc.integer({ min: 0, max: whole.length - 1 }),
          to: fc.integer({ min: 0, max: 255 }),
        }),
        async ({ cut, at, to }) => {
          const bytes = Buffer.from(whole.subarray(0, cut));
          if (at < cut) bytes[at] = to;
          const outcome = await decodePicture(await asFile(bytes, 'png')).then(
            ({ raster }) => raster.planes.length,
            (error: unknown) => error,
          );
          if (typeof outcome !== 'number') expect(outcome).toHaveProperty('name', 'PictureError');
        },
      ),
      { numRuns: 60 },
    );
  });
});
