import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { FinishStep } from '@fennip/core/finish';
import type { LedgerEntry } from '@fennip/core/ledger';
import type { HealMend } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import type { Recipe } from '@fennip/core/recipe';
import { SRGB_SPACE, DISPLAY_P3_SPACE, convertColours } from '@fennip/core/colour';
import { frameWhole } from '@fennip/core/finish';
import { ledgerEntries } from '@fennip/core/ledger';
import { gaussian, mulberry } from '@fennip/core/random';
import { cloneRaster, createRaster, fullScale } from '@fennip/core/raster';
import { emptyRecipe, emptyWorksheet, renderRecipe } from '@fennip/core/recipe';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { decode as decodeTiff } from 'tiff';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { DeliverySettings, PictureHeader } from './index.ts';
import { tableProfile } from './tableProfile.fixture.ts';
import {
  captureExif,
  decodePicture,
  deliverLayers,
  deliverPicture,
  readHeader,
  withHistory,
} from './index.ts';

let folder = '';
let files = 0;
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-deliver-'));
});
afterAll(() => rm(folder, { recursive: true }));

const [WIDTH, HEIGHT] = [96, 64];

/** Stones in the sun: a slope of tone with seeded grain, redder than grey. */
function scene(depth: 8 | 16): Raster {
  const raster = createRaster(WIDTH, HEIGHT, 3, depth);
  const uniform = mulberry(5);
  const top = fullScale(depth);
  raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++)
      plane[i] = Math.round(top * (0.35 + (0.3 * (i % WIDTH)) / WIDTH - 0.06 * c + 0.01 * gaussian(uniform)));
  });
  return raster;
}
const PLAIN: PictureHeader = {
  ...{
    format: 'tiff',
    width: WIDTH,
    height: HEIGHT,
    depth: 16,
    channels: 3,
    isCmyk: false,
    pages: 1,
    density: 300,
  },
};
const AS_IT_IS: DeliverySettings = {
  ...{ format: 'tiff', quality: 92, depth: 16, size: { kind: 'full' }, profile: 'own', intent: 'relative' },
  ...{ isDataKept: true, note: null },
};
async function delivered(more: Partial<DeliverySettings>, header = PLAIN): Promise<string> {
  const settings = { ...AS_IT_IS, ...more };
  // A name of its own: the imaging library remembers what it has read of a path.
  const path = join(folder, `${files++}.${settings.format}`);
  await writeFile(path, await deliverPicture(scene(16), header, settings));
  return path;
}

/** Records as IPTC IIM 4.2 has them: the caption "Brannoch", record 2, data set 120. */
const IPTC = Buffer.concat([Buffer.from([0x1c, 2, 120, 0, 8]), Buffer.from('Brannoch')]);

describe('a delivery', () => {
  it('of a TIFF holds every value, its depth and resolution, packed as asked, for another reader', async () => {
    for (const compression of ['deflate', 'lzw'] as const) {
      const path = await delivered({ compression });
      const seen = await sharp(path).metadata();
      expect([seen.depth, seen.density, seen.width, seen.height]).toEqual(['ushort', 300, WIDTH, HEIGHT]);
      // The TIFF reader of image-js (tiff 7.1.3): 5 is LZW, 8 deflate (TIFF 6.0 and its technical note 2).
      const [other] = decodeTiff(await readFile(path));
      expect([other.compression, other.bitsPerSample]).toEqual([compression === 'lzw' ? 5 : 8, 16]);
      const own = scene(16).planes;
      expect([...other.data].every((value, i) => value === own[i % 3][Math.floor(i / 3)])).toBe(true);
      const { raster } = await decodePicture(path);
      expect(raster.planes.map((plane) => [...plane])).toEqual(scene(16).planes.map((plane) => [...plane]));
    }
  });

  it('of a JPEG keeps colour at full resolution or halves it', async () => {
    for (const chroma of ['4:4:4', '4:2:0'] as const) {
      const path = await delivered({ format: 'jpeg', depth: 8, quality: 80, chroma });
      expect((await sharp(path).metadata()).chromaSubsampling).toBe(chroma);
    }
  });

  it('is as large as was asked for, and says how large that is on paper', async () => {
    const half = await sharp(await delivered({ size: { kind: 'pixels', longest: 48 } })).metadata();
    expect([half.width, half.height, half.density]).toEqual([48, 32, 150]);
    const paper = { kind: 'paper', longer: 1.5, shorter: 1, ppi: 96 } as const;
    const printed = await sharp(await delivered({ size: paper })).metadata();
    expect([printed.width, printed.height, printed.density]).toEqual([144, 96, 96]);
  });

  it('in another profile holds the colours that another colour engine makes of it (libvips with Little CMS)', async () => {
    const own = scene(8);
    const settings: DeliverySettings = { ...AS_IT_IS, format: 'png', depth: 8, profile: 'display-p3' };
    const path = join(folder, 'wide.png');
    await writeFile(path, await deliverPicture(own, { ...PLAIN, depth: 8 }, settings));
    const { raster, header } = await decodePicture(path);
    const interleaved = new Uint8Array(3 * WIDTH * HEIGHT);
    own.planes.forEach((plane, c) => plane.forEach((value, i) => (interleaved[3 * i + c] = value)));
    const theirs = join(folder, 'peer.png');
    await sharp(interleaved, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
      .withIccProfile('p3')
      .png()
      .toFile(theirs);
    const peer = await decodePicture(theirs);
    expect(header.icc?.equals(peer.header.icc ?? Buffer.alloc(0))).toBe(true);
    raster.planes.forEach((plane, c) =>
      plane.forEach((value, i) => expect(Math.abs(value - peer.raster.planes[c][i])).toBeLessThanOrEqual(1)),
    );
    expect(raster.planes[0].some((value, i) => value !== own.planes[0][i])).toBe(true);
  });

  it('as TIFF tells a resolution where one is known, and none where none is', async () => {
    const known = await readHeader(await delivered({ format: 'tiff' }, { ...PLAIN, density: 240 }));
    expect(known.density).toBeCloseTo(240, 6);
    const { density, ...unknown } = PLAIN;
    void density;
    expect((await readHeader(await delivered({ format: 'tiff' }, unknown))).density).toBeUndefined();
  });

  it('in grey has one channel', async () => {
    const path = await delivered({ profile: 'grey', format: 'png' });
    expect((await readHeader(path)).channels).toBe(1);
  });

  it.each(['jpeg', 'tiff', 'png', 'webp'] as const)(
    'as %s carries what it came with, and a note',
    async (format) => {
      const header: PictureHeader = {
        ...PLAIN,
        exif: captureExif({ camera: 'Halden M2', fNumber: 8 }),
        xmp: withHistory(undefined, { words: 'scanned', when: '2026-11-01T10:00:00Z' }),
        iptc: IPTC,
      };
      const note = { words: 'Restored: 3 faults mended', when: '2026-11-26T10:00:00Z' };
      const path = await delivered({ format, depth: 8, note }, header);
      const seen = await sharp(path).metadata();
      const xmp = seen.xmp?.toString('utf8') ?? '';
      expect(xmp).toContain('scanned');
      expect(xmp).toContain('Restored: 3 faults mended');
      // One history with two events, as the standard has it.
      expect(xmp.match(/<xmpMM:History>/g)).toHaveLength(1);
      const read = await readHeader(path);
      expect(read.exif).toBeDefined();
      if (format === 'jpeg' || format === 'tiff')
        expect(read.iptc?.includes(Buffer.from('Brannoch'))).toBe(true);
      const bare = await sharp(await delivered({ format, depth: 8, isDataKept: false }, header)).metadata();
      expect(bare.xmp).toBeUndefined();
      expect(bare.iptc).toBeUndefined();
      expect(bare.exif?.includes(Buffer.from('Halden')) ?? false).toBe(false);
    },
  );

  it.each([
    ['srgb', SRGB_SPACE],
    ['display-p3', DISPLAY_P3_SPACE],
  ] as const)('in %s holds the colours that a profile made of tables says', async (profile, space) => {
    const own = scene(16);
    const icc = tableProfile();
    const settings: DeliverySettings = { ...AS_IT_IS, format: 'tiff', depth: 16, profile };
    const path = join(folder, `tables-${profile}.tif`);
    await writeFile(path, await deliverPicture(own, { ...PLAIN, icc }, settings));
    const { raster } = await decodePicture(path);
    // The table holds Display P3, on 17 places a side.
    const wanted = convertColours(own, DISPLAY_P3_SPACE, space, 'relative');
    let most = 0;
    raster.planes.forEach((plane, c) =>
      plane.forEach((value, i) => (most = Math.max(most, Math.abs(value - wanted.planes[c][i])))),
    );
    expect(most / 257).toBeLessThan(2);
    if (profile === 'srgb')
      expect(raster.planes[0].some((value, i) => Math.abs(value - own.planes[0][i]) > 4 * 257)).toBe(true);
  });

  it.each([
    ['without a tag', Buffer.alloc(144)],
    ['cut short', tableProfile().subarray(0, 3000)],
    ['of another kind', Buffer.from(tableProfile()).fill('XXXX', 132, 136)],
  ])('refuses a profile %s, and says what to do', async (_, icc) => {
    await expect(delivered({ profile: 'srgb' }, { ...PLAIN, icc })).rejects.toThrow(/in its own profile/);
  });
});

describe('a picture in layers', () => {
  const heal = (id: string, x: number, fault?: string): HealMend => ({
    ...{
      id,
      method: 'heal',
      target: { shape: 'disc', x, y: 30, r: 6 },
      margin: 2,
      edge: 1.5,
      share: 1,
      on: true,
    },
    ...{ source: { dx: 24, dy: 5 } },
    ...(fault === undefined ? {} : { fault }),
  });
  const recipe: Recipe = {
    ...emptyRecipe({ width: WIDTH, height: HEIGHT }),
    mends: [heal('a', 30, 'f1'), heal('b', 36)],
    finish: [
      { id: 'l', on: true, share: 1, method: 'levels', tones: [{ black: 0.1, white: 0.9, gamma: 1 }] },
    ],
  };
  const entries: LedgerEntry[] = ledgerEntries(
    [
      {
        ...{ id: 'f1', number: 1, kind: 'speck', polarity: 'dark', x: 30, y: 30, r: 6 },
        ...{ strength: 0.2, softness: 0.3, confidence: 0.9 },
      },
    ],
    { ...emptyWorksheet({ width: WIDTH, height: HEIGHT }), recipe },
  );

  const STEP = { on: true, share: 1 } as const;
  const CROP: FinishStep = { ...STEP, id: 'c', method: 'crop', left: 20, top: 12, width: 50, height: 36 };
  const STRAIGHTEN: FinishStep = { ...STEP, id: 's', method: 'straighten', angle: 0.04 };
  const LENS: FinishStep = { ...STEP, id: 'd', method: 'lens', k1: 0.03, k2: 0 };

  /** Its layers without the finish, laid over each other by another library from the lowest to the highest. */
  async function laidOver(files: Record<string, Uint8Array>, xml: string): Promise<Buffer> {
    const layers = [...xml.matchAll(/src="([^"]*)" x="(\d+)" y="(\d+)"/g)].map(([, src, x, y]) => ({
      ...{ src, left: Number(x), top: Number(y) },
    }));
    const mends = layers.filter(({ src }) => src.includes('mend')).reverse();
    return sharp(files['data/original.png'])
      .composite(mends.map(({ src, left, top }) => ({ input: Buffer.from(files[src]), left, top })))
      .removeAlpha()
      .raw()
      .toBuffer();
  }

  const expectSame = (pixels: Buffer, wanted: Raster): void =>
    wanted.planes.forEach((plane, c) =>
      plane.forEach((value, i) => expect(pixels[wanted.planes.length * i + c]).toBe(value)),
    );

  it('is an OpenRaster file that other libraries read: its required parts, groups, and the very pixels', async () => {
    const original = scene(8);
    const bytes = await deliverLayers(cloneRaster(original), { ...PLAIN, depth: 8 }, recipe, entries);
    // The specification (OpenRaster 0.0.5, file layout): the type comes first, as it is, where `file` finds it.
    expect(bytes.toString('latin1', 30, 54)).toBe('mimetypeimage/openraster');
    const files = unzipSync(bytes);
    for (const name of ['mimetype', 'stack.xml', 'mergedimage.png', 'Thumbnails/thumbnail.png'])
      expect(Object.keys(files)).toContain(name);
    const xml = Buffer.from(files['stack.xml']).toString('utf8');
    expect(xml).toMatch(new RegExp(`<image version="[0-9.]+" w="${WIDTH}" h="${HEIGHT}"`));
    const names = [...xml.matchAll(/name="([^"]*)"/g)].map(([, name]) => name);
    expect(names).toEqual(['Finished', 'Specks', '1 speck, healed', 'By hand', 'healed', 'Original']);
    const thumb = await sharp(files['Thumbnails/thumbnail.png']).metadata();
    expect(Math.max(thumb.width, thumb.height)).toBeLessThanOrEqual(256);

    const wanted = cloneRaster(original);
    renderRecipe(wanted, { ...recipe, finish: [] });
    expectSame(await laidOver(files, xml), wanted);
    renderRecipe(wanted, { ...recipe, mends: [] });
    expectSame(await sharp(files['mergedimage.png']).raw().toBuffer(), wanted);
  });

  it.each([
    ['cropped', [CROP]],
    ['straightened', [STRAIGHTEN]],
    ['corrected, straightened and cropped', [LENS, STRAIGHTEN, CROP]],
  ])('shows a picture that is %s as it is seen, in every layer', async (_, framing) => {
    const original = scene(8);
    const framed = { ...recipe, finish: [...(recipe.finish ?? []), ...framing] };
    const bytes = await deliverLayers(cloneRaster(original), { ...PLAIN, depth: 8 }, framed, entries);
    const files = unzipSync(bytes);
    const xml = Buffer.from(files['stack.xml']).toString('utf8');
    const mended = cloneRaster(original);
    renderRecipe(mended, { ...recipe, finish: [] });
    const seen = frameWhole(mended, framing);
    expect(xml).toMatch(`w="${seen.width}" h="${seen.height}"`);
    expect(xml.match(/mend-/g)).toHaveLength(2);
    expectSame(await laidOver(files, xml), seen);
    renderRecipe(mended, { ...recipe, mends: [] });
    expectSame(await sharp(files['mergedimage.png']).raw().toBuffer(), frameWhole(mended, framing));
  });

  it('has no finished layer where the finish only frames, and leaves out a mend that is cut away', async () => {
    const away: FinishStep = { ...CROP, left: 60, width: 20 };
    const bytes = await deliverLayers(
      scene(8),
      { ...PLAIN, depth: 8 },
      { ...recipe, finish: [away] },
      entries,
    );
    const names = Object.keys(unzipSync(bytes));
    expect(names.filter((name) => name.startsWith('data/'))).toEqual(['data/original.png']);
  });
});
