import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { deskOf, saved, toStage } from './desk.ts';
import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { workerSamples } from './workerSamples.ts';

const PICTURES = fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url));

interface LaidSpeck {
  readonly kind: string;
  readonly x: number;
  readonly y: number;
  readonly r: number;
}

/** What was laid on a picture of the demo: its specks, as the scene that was rendered has them. */
const specksOf = (file: string): LaidSpeck[] =>
  (
    JSON.parse(readFileSync(join(PICTURES, `${file}.truth.json`), 'utf8')) as { faults: LaidSpeck[] }
  ).faults.filter(({ kind }) => kind === 'speck');

interface GreyPicture {
  readonly data: Uint8Array;
  readonly width: number;
}

async function greyOf(file: Buffer): Promise<GreyPicture> {
  const { data, info } = await sharp(file)
    .removeAlpha()
    .toColourspace('b-w')
    .extractChannel(0)
    .raw()
    .toBuffer({ resolveWithObject: true });
  return { data, width: info.width };
}

/** How far the middle of a disc departs from the ring around it, in codes of 255. */
function departure({ data, width }: GreyPicture, { x, y, r }: LaidSpeck): number {
  const [core, ring] = [
    [0, 0],
    [0, 0],
  ];
  const reach = Math.ceil(2.4 * r + 2);
  for (let py = Math.max(0, Math.floor(y - reach)); py <= y + reach; py++)
    for (let px = Math.max(0, Math.floor(x - reach)); px <= x + reach; px++) {
      const away = Math.hypot(px + 0.5 - x, py + 0.5 - y);
      const sum = away < 0.7 * r + 0.5 ? core : away > 1.5 * r + 1 && away < reach ? ring : null;
      const value = data[py * width + px];
      if (!sum || value === undefined) continue;
      sum[0] += value;
      sum[1]++;
    }
  return Math.abs(core[0] / core[1] - ring[0] / ring[1]);
}

/** Where tears, the crease and the lost corner go through the white margin of the demo's print, and where nothing does. */
const MARGIN = {
  torn: [
    { left: 676, top: 6, width: 30, height: 34 },
    { left: 1172, top: 684, width: 24, height: 26 },
    { left: 8, top: 1764, width: 60, height: 28 },
    { left: 1164, top: 925, width: 32, height: 12 },
  ],
  whole: { left: 300, top: 6, width: 60, height: 34 },
};
const PRINT = { width: 1200, height: 1800 };

/** Mean and spread of a part of the print, in shares of full scale. */
function toneOf(data: ArrayLike<number>, { left, top, width, height }: typeof MARGIN.whole) {
  const values: number[] = [];
  for (let y = top; y < top + height; y++)
    for (let x = left; x < left + width; x++) values.push(data[y * PRINT.width + x] / 65535);
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  const spread = Math.sqrt(values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / values.length);
  return { mean, spread };
}

async function grey16Of(file: Buffer): Promise<Uint16Array> {
  const pixels = await sharp(file).toColourspace('grey16').raw({ depth: 'ushort' }).toBuffer();
  return new Uint16Array(pixels.buffer, pixels.byteOffset, pixels.length / 2);
}

/**
 * True if a place is as even as the file's own white paper but for a trace that nobody sees: 3 codes of 255 in the mean,
 * twice its grain.
 */
function isPaper(grey: Uint16Array, place: typeof MARGIN.whole): boolean {
  const [paper, here] = [toneOf(grey, MARGIN.whole), toneOf(grey, place)];
  return Math.abs(here.mean - paper.mean) < 3 / 255 && here.spread < 2 * paper.spread;
}

/** The print's margin is white paper again where it was torn, creased and lost. */
async function expectWholeMargin(original: Buffer, delivered: Buffer): Promise<void> {
  const [before, after] = [await grey16Of(original), await grey16Of(delivered)];
  for (const place of MARGIN.torn) {
    expect([place, isPaper(before, place)]).toEqual([place, false]);
    expect([place, isPaper(after, place)]).toEqual([place, true]);
  }
}

for (const { file, ground, least, format } of [
  { file: 'opening-day-print.tif', ground: 'print', least: 0.75, format: 'tiff' },
  { file: 'wagon-in-the-quarry.jpg', ground: 'water', least: 0.85, format: 'jpeg' },
])
  test(`the demo's ${ground} is examined, mended, finished and handed over: ${file}`, async ({
    quietPage: page,
  }) => {
    const original = readFileSync(join(PICTURES, file));
    await makeJob(page, `All of the ${ground}`);
    await addFiles(page, [{ name: file, buffer: original }]);
    await expect(page.getByText('Not examined')).toBeVisible();
    await page.locator(`[data-picture="${file}"]`).click();
    await page.getByTestId('examine').click();
    // Stopped before it is done nothing is listed, and it can be asked again.
    await page.getByTestId('stop-examining').click();
    await expect(page.getByText('Not examined yet')).toBeVisible();
    await expect(page.locator('[data-entry]')).toHaveCount(0);
    await page.getByTestId('examine').click();
    await expect(page.locator('[data-entry]').first()).toBeVisible();
    await toStage(page, 'Mend');
    await page.getByRole('button', { name: 'Choose all' }).click();
    await page.getByTestId('mend-chosen').click();
    await expect(page.getByText(/^0 open of/)).toBeVisible({ timeout: 120_000 });
    const { mends } = (await saved(page)).recipe;

    await toStage(page, 'Finish');
    await page.getByRole('button', { name: 'Levels', exact: true }).click();
    await page.getByRole('button', { name: 'Sharpen', exact: true }).click();
    const steps = async (): Promise<unknown[]> =>
      ((await saved(page)).recipe as unknown as { finish?: unknown[] }).finish ?? [];
    await expect.poll(async () => (await steps()).length).toBe(2);

    await page.getByRole('link', { name: 'Hand over', exact: true }).click();
    await page.getByText(format.toUpperCase(), { exact: true }).click();
    await page.getByTestId('deliver').click();
    const saves = page.getByRole('link', { name: /^Save, / });
    await expect(saves).toHaveCount(1);
    const fetched = async (path: string): Promise<Buffer> =>
      (await page.request.get(new URL(path, page.url()).href)).body();
    const delivered = await fetched((await saves.first().getAttribute('href')) ?? '');
    const [sent, came] = [await sharp(delivered).metadata(), await sharp(original).metadata()];
    expect([sent.format, sent.width, sent.height]).toEqual([format, came.width, came.height]);

    if (ground === 'print') await expectWholeMargin(original, delivered);
    // Of what was laid on the scene, and could be seen there, most no longer departs from what is around it.
    const [before, after] = [await greyOf(original), await greyOf(delivered)];
    const seen = specksOf(file).filter((speck) => departure(before, speck) > 12);
    const gone = seen.filter((speck) => departure(after, speck) < 0.5 * departure(before, speck));
    expect(seen.length).toBeGreaterThan(60);
    expect(gone.length / seen.length).toBeGreaterThan(least);

    // The finish goes without touching a mend.
    await toStage(page, 'Finish');
    await page.getByRole('button', { name: 'Reset all' }).click();
    await expect.poll(async () => (await steps()).length).toBe(0);
    expect(JSON.stringify((await saved(page)).recipe.mends)).toBe(JSON.stringify(mends));
  });

test("the stain on the demo's print, outlined roughly, comes off with its rim", async ({
  quietPage: page,
}) => {
  const [name, size] = ['opening-day-print.tif', { width: 1200, height: 1800 }];
  const [x, y] = [330, 470];
  const original = readFileSync(join(PICTURES, name));
  await makeJob(page, 'A stain');
  await addFiles(page, [{ name, buffer: original }]);
  await page.locator(`[data-picture="${name}"]`).click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, size);
  await page.keyboard.press('m');
  await page.keyboard.press('o');
  for (let k = 0; k < 16; k++) {
    const [angle, r] = [(2 * Math.PI * k) / 16, k % 2 === 0 ? 124 : 130];
    await page.mouse.click(...desk.at(x + r * Math.cos(angle), y - 4 + r * Math.sin(angle)));
  }
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-entry][aria-pressed=true]')).toHaveCount(1);
  await page.getByTestId('kind').click();
  await page.getByRole('option', { name: 'stain' }).click();
  await page.getByTestId('mend-chosen').click();
  const kinds = async (): Promise<unknown[]> =>
    (await saved(page)).recipe.mends.map(({ veil }) => (veil as { kind: string } | undefined)?.kind);
  await expect.poll(kinds).toEqual(['stain']);

  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const [grey] = await workerSamples(page, id);
  const samples = { data: new Uint16Array(grey.buffer, grey.byteOffset, grey.length / 2), width: size.width };
  /** Mean tone of the sky between two distances from the stain's middle, in shares of full scale. */
  const skyBetween = (
    { data, width }: { data: ArrayLike<number>; width: number },
    from: number,
    to: number,
  ) => {
    let [sum, count] = [0, 0];
    for (let py = y - 180; py < y - 50; py++)
      for (let px = x - 180; px < x + 180; px++) {
        const away = Math.hypot(px - x, py - y);
        if (away < from || away > to || px < 90) continue;
        sum += data[py * width + px];
        count++;
      }
    return sum / count;
  };
  const before = await greyOf(original);
  const seen = (skyBetween(before, 150, 178) - skyBetween(before, 0, 100)) / 255;
  const left = (skyBetween(samples, 150, 178) - skyBetween(samples, 0, 100)) / 65535;
  expect(seen).toBeGreaterThan(0.06);
  expect(Math.abs(left)).toBeLessThan(seen / 4);
});

test('a loss that nothing in the print is like is said to be one; a piece of its ground is not', async ({
  quietPage: page,
}) => {
  const name = 'opening-day-print.tif';
  await makeJob(page, 'Two heads');
  await addFiles(page, [{ name, buffer: readFileSync(join(PICTURES, name)) }]);
  await page.locator(`[data-picture="${name}"]`).click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, PRINT);
  // An outline instead of a pen, which the hand then keeps.
  await page.keyboard.press('o');
  const rebuildAround = async (x: number, y: number): Promise<void> => {
    await page.keyboard.press('y');
    for (const [dx, dy] of [
      [-60, -60],
      [60, -60],
      [60, 60],
      [-60, 60],
      [-60, -60],
    ])
      await page.mouse.click(...desk.at(x + dx, y + dy));
    await page.keyboard.press('Escape');
  };
  const verdict = page.getByTestId('verdict').locator('dd').first();
  const notice = page.getByText('Nothing in this picture fits this loss well.');
  await rebuildAround(700, 1560);
  await expect(verdict).toHaveText('good');
  await expect(notice).toHaveCount(0);
  // Two bodies run into this one from below, dark on dark.
  await rebuildAround(460, 1200);
  await expect(notice).toBeVisible();
  await expect(verdict).toHaveText(/^(structure lost|edges stop at it)$/);
});
