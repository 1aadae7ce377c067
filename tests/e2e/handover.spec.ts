import { execFileSync } from 'node:child_process';
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { gaussian, mulberry } from '@fennip/core/random';
import { createRaster } from '@fennip/core/raster';
import { unzipSync } from 'fflate';
import sharp from 'sharp';
import { deskOf, drag, saved, toStage } from './desk.ts';
import { addFiles, colourAt, expect, makeJob, test } from './fixtures.ts';
import { workerSamples } from './workerSamples.ts';

const SIZE = { width: 420, height: 300 };
/** The roof line falls by so many pixels over the width. */
const FALL = 30;

/** A roof that is not level under a sky with two specks, faded, as a scan at 150 ppi. */
function faded(): Promise<Buffer> {
  const raster = createRaster(SIZE.width, SIZE.height, 3, 8);
  const uniform = mulberry(3);
  const specks = [
    [150, 70],
    [290, 90],
  ] as const;
  const data = Buffer.alloc(3 * SIZE.width * SIZE.height);
  for (let y = 0, i = 0; y < SIZE.height; y++)
    for (let x = 0; x < SIZE.width; x++, i++) {
      const isRoof = y > 150 + (FALL * x) / SIZE.width;
      const shade = Math.min(
        1,
        ...specks.map(([sx, sy]) => 0.55 + 0.45 * Math.min(1, Math.max(0, Math.hypot(x - sx, y - sy) - 6))),
      );
      for (let c = 0; c < 3; c++) {
        const value = (isRoof ? 95 - 6 * c : 150 + 8 * c) * shade + 1.5 * gaussian(uniform);
        raster.planes[c][i] = data[3 * i + c] = Math.round(value);
      }
    }
  return sharp(data, { raw: { ...SIZE, channels: 3 } })
    .withMetadata({ density: 150 })
    .tiff({ compression: 'lzw' })
    .toBuffer();
}

test('a picture is straightened, cropped, toned and handed over as it was seen, in layers and with its report', async ({
  quietPage: page,
}) => {
  const folder = mkdtempSync(join(tmpdir(), 'fennip-handed-over-'));
  await makeJob(page, 'Handing over');
  await addFiles(page, [{ name: 'roof.tif', buffer: await faded() }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="roof.tif"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, SIZE);
  await page.keyboard.press('e');
  await page.mouse.click(...desk.at(150, 70));
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(1);
  await page.mouse.click(...desk.at(290, 90));
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(2);
  await page.keyboard.press('Escape');
  const { mends } = (await saved(page)).recipe;

  // The roof is drawn along, and the picture turned until it lies level.
  await toStage(page, 'Finish');
  const steps = async (): Promise<Record<string, unknown>[]> =>
    ((await saved(page)).recipe as unknown as { finish?: Record<string, unknown>[] }).finish ?? [];
  const step = async (method: string): Promise<Record<string, number> | undefined> =>
    (await steps()).find((one) => one['method'] === method) as Record<string, number> | undefined;
  await page.getByRole('button', { name: 'Straighten', exact: true }).click();
  await page.getByRole('button', { name: 'Along a line' }).click();
  const table = await deskOf(page, SIZE);
  await drag(page, [table.at(20, 150 + (FALL * 20) / 420), table.at(400, 150 + (FALL * 400) / 420)]);
  await expect.poll(async () => (await step('straighten'))?.['angle']).toBeCloseTo(-Math.atan(FALL / 420), 2);

  // The crop begins with all that is left, is pulled at a side, and moved on by a key.
  await page.getByRole('button', { name: 'Crop', exact: true }).click();
  await expect.poll(async () => await step('crop')).toBeDefined();
  const whole = await step('crop');
  if (!whole) throw new Error('there is no crop');
  const right = page.getByRole('slider', { name: 'Right side of the crop' });
  const handle = await right.boundingBox();
  if (!handle) throw new Error('there is no handle');
  const grip = [handle.x + handle.width / 2, handle.y + handle.height / 2] as const;
  await drag(page, [grip, [grip[0] - 60 * table.scale, grip[1]]]);
  await expect.poll(async () => (await step('crop'))?.['width']).toBeLessThan(whole['width'] - 40);
  const pulled = await step('crop');
  await right.focus();
  await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await step('crop'))?.['width']).toBe((pulled?.['width'] ?? 0) - 1);

  await page.getByRole('button', { name: 'Sharpen', exact: true }).click();
  await expect.poll(async () => (await step('sharpen'))?.['threshold']).not.toBe(0.01);
  await page.getByRole('button', { name: 'Levels', exact: true }).click();
  await page.getByRole('button', { name: 'White', exact: true }).click();
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  await page.mouse.click(box.x + box.width / 2, box.y + box.height / 4);
  await expect
    .poll(async () => (await steps()).find(({ method }) => method === 'levels')?.['tones'])
    .toHaveLength(3);

  // What is delivered is what the table showed, value for value, in the sides of the crop.
  await page.getByRole('link', { name: 'Hand over', exact: true }).click();
  const crop = await step('crop');
  const framed = { width: crop?.['width'] ?? 0, height: crop?.['height'] ?? 0 };
  await expect(page.getByTestId('delivered-size')).toContainText(`${framed.width} × ${framed.height} px`);
  await page.getByText('PNG', { exact: true }).click();
  await page.getByTestId('deliver').click();
  const fetched = async (path: string): Promise<Buffer> =>
    (await page.request.get(new URL(path, page.url()).href)).body();
  const file = page.getByRole('link', { name: /^Save, / });
  await expect(file).toHaveCount(1);
  const png = await fetched((await file.first().getAttribute('href')) ?? '');
  const pixels = await sharp(png).raw().toBuffer({ resolveWithObject: true });
  expect([pixels.info.width, pixels.info.height]).toEqual([framed.width, framed.height]);
  const { density, xmp } = await sharp(png).metadata();
  expect(density).toBe(150);
  expect(xmp?.toString('utf8')).toContain('2 healed');
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const samples = await workerSamples(page, id, framed);
  samples.forEach((plane, c) =>
    expect(plane.every((value, i) => value === pixels.data[3 * i + c])).toBe(true),
  );
  const recipe = JSON.parse(
    String(await fetched((await page.getByRole('link', { name: /^Recipe of/ }).getAttribute('href')) ?? '')),
  );
  expect(recipe).toMatchObject({ format: 'fennip-recipe', version: 1, mends });
  expect(recipe.picture.sha256).toMatch(/^[0-9a-f]{64}$/);

  // More than the scan holds is said to be.
  await page.getByRole('combobox', { name: 'Size' }).press('Enter');
  await page.getByRole('option', { name: 'on paper' }).click();
  await expect(page.getByText(/times larger than the picture holds/)).toBeVisible();

  await page.getByText('Layers (ORA)', { exact: true }).click();
  await page.getByTestId('deliver').click();
  await expect(file).toHaveCount(2);
  const layers = unzipSync(await fetched((await file.first().getAttribute('href')) ?? ''));
  expect(String(Buffer.from(layers['mimetype']))).toBe('image/openraster');
  const stack = String(Buffer.from(layers['stack.xml']));
  expect(stack).toMatch(/<stack name="By hand"><layer name="healed"/);
  expect(stack).toContain(`w="${framed.width}" h="${framed.height}"`);
  const merged = await sharp(Buffer.from(layers['mergedimage.png'])).removeAlpha().raw().toBuffer();
  expect(merged.equals(pixels.data)).toBe(true);

  const report = join(folder, 'report.pdf');
  const href = await page.getByRole('link', { name: 'PDF, A4' }).getAttribute('href');
  writeFileSync(report, await fetched(href ?? ''));
  const text = execFileSync('pdftotext', ['-layout', report, '-'], { encoding: 'utf8' });
  for (const words of ['roof.tif', 'Handing over', 'Damage mended: 2 faults.', 'straightening'])
    expect(text).toContain(words);

  // The finish goes without touching a mend.
  await toStage(page, 'Finish');
  await page.getByRole('button', { name: 'Reset all' }).click();
  await expect.poll(async () => (await steps()).length).toBe(0);
  expect(JSON.stringify((await saved(page)).recipe.mends)).toBe(JSON.stringify(mends));
  rmSync(folder, { recursive: true });
});

test('a picture leaves with its mends, comes back changed, and stands as one step that can be undone', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'Elsewhere');
  await addFiles(page, [{ name: 'away.tif', buffer: await faded() }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="away.tif"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, SIZE);
  await page.keyboard.press('e');
  await page.mouse.click(...desk.at(150, 70));
  await page.mouse.click(...desk.at(290, 90));
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(2);
  await page.keyboard.press('Escape');

  await page.getByRole('link', { name: 'Hand over', exact: true }).click();
  await page.getByRole('button', { name: 'Render it to work on' }).click();
  const file = page.getByRole('link', { name: /^Save, / });
  await expect(page.getByText('away to work on.tif')).toBeVisible();
  await expect(file).toHaveCount(1);
  const sent = await (
    await page.request.get(new URL((await file.getAttribute('href')) ?? '', page.url()).href)
  ).body();

  // Elsewhere a bird is painted over the first mend, and the file comes back.
  const bird = {
    input: { create: { width: 30, height: 12, channels: 3, background: '#202020' } },
    left: 140,
    top: 64,
  } as const;
  const changed = await sharp(sent).composite([bird]).tiff({ compression: 'lzw' }).toBuffer();
  const bring = page.getByTestId('bring-back');
  await bring.setInputFiles({
    name: 'away.tif',
    mimeType: 'image/tiff',
    buffer: await sharp(changed).resize(400).tiff().toBuffer(),
  });
  await expect(page.getByText(/comes back with 400 x \d+ pixels, but it left with 420 x 300/)).toBeVisible();
  await bring.setInputFiles({ name: 'away.tif', mimeType: 'image/tiff', buffer: changed });
  await expect(page.getByTestId('came-back')).toContainText('One mend lies under it');
  const { recipe, done } = await saved(page);
  expect(recipe.mends.map(({ method }) => method)).toEqual(['heal', 'heal', 'return']);
  expect(done.at(-1)?.words).toBe('Brought back from another program');

  // It lies on the table as it came, also under what is delivered, and goes again.
  await toStage(page, 'Mend');
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  const toneAt = async (px: number, py: number): Promise<number> => {
    const [x, y] = desk.at(px, py);
    return (await colourAt(page, x - box.x, y - box.y))[0];
  };
  await expect.poll(() => toneAt(155, 70)).toBeLessThan(60);
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const samples = await workerSamples(page, id);
  const wanted = await sharp(changed).removeAlpha().raw().toBuffer();
  // What was only rounded elsewhere stays what it was; the bird is what came.
  samples.forEach((plane, c) =>
    expect(plane.every((value, i) => Math.abs(value - wanted[3 * i + c]) <= 2)).toBe(true),
  );
  expect(samples.map((plane) => plane[70 * SIZE.width + 155])).toEqual([0x20, 0x20, 0x20]);
  await page.keyboard.press('Control+z');
  await expect.poll(() => toneAt(155, 70)).toBeGreaterThan(110);

  // Dropped where pictures come in, it is known by the name it left under, whatever its format.
  await page.getByRole('link', { name: 'Intake', exact: true }).click();
  await addFiles(page, [
    { name: 'away to work on.png', buffer: await sharp(changed).png().toBuffer() },
    { name: 'another.png', buffer: await sharp(changed).resize(200).png().toBuffer() },
  ]);
  await expect(page.getByText(/^Came back to away.tif as one step of its history/)).toBeVisible();
  await expect(page.getByText(/One mend lies under what changed/)).toBeVisible();
  await expect(page.locator('[data-picture]')).toHaveCount(2);
  await page.getByRole('button', { name: 'Look at away.tif' }).click();
  await expect.poll(() => toneAt(155, 70)).toBeLessThan(60);
  expect((await saved(page)).recipe.mends.at(-1)?.method).toBe('return');
});
