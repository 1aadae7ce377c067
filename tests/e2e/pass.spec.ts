import { readFile } from 'node:fs/promises';
import { decodePicture, readHeader } from '@fennip/files';
import { toStage } from './desk.ts';
import { addFiles, colourAt, expect, makeJob, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';
import { workerSamples } from './workerSamples.ts';

/** Laid on the open sky and water of the photograph of boats. */
const SPECKS = [
  { x: 210, y: 90, r: 9 },
  { x: 640, y: 120, r: 7 },
  { x: 420, y: 60, r: 12 },
];

test.describe.configure({ mode: 'serial' });

test.use({ database: 'own', contextOptions: { reducedMotion: 'no-preference' } });

test('the whole pass: from files to a mended file, over a restart of the server and of the database', async ({
  quietPage: page,
  application,
}) => {
  await makeJob(page, 'Boats');
  await addFiles(page, [
    { name: 'boats.tif', buffer: await speckedPhotograph('nagasaki-boats', SPECKS, 16) },
    { name: 'letter.jpg', buffer: Buffer.from('Dear sir, the print is torn.') },
    {
      name: 'cut.png',
      buffer: (await speckedPhotograph('french-alpine-landscape', [], 8)).subarray(0, 200_000),
    },
  ]);
  await expect(page.getByText('This is not a picture. Fennip opens JPEG, PNG, TIFF and WebP.')).toBeVisible();
  await expect(page.getByText('cut short')).toBeVisible();
  await expect(page.getByText('print, 3.4 × 2.7 in at 300 ppi, 16 bit')).toBeVisible();

  // Examine.
  await page.locator('[data-picture="boats.tif"]').click();
  await page.getByText('Dark', { exact: true }).click();
  await page.getByTestId('examine').click();
  const lines = page.locator('[data-entry]');
  await expect(lines.first()).toBeVisible();
  await expect(page.getByText(/open of \d+/)).toBeVisible();

  // A click on the picture where a speck was laid chooses that fault: the marks stand where they should.
  const table = page.getByTestId('table');
  const box = await table.boundingBox();
  if (!box) throw new Error('there is no table');
  const scale = Math.min((box.width - 48) / 1024, (box.height - 48) / 819);
  const [sx, sy] = [
    (SPECKS[0].x - 512) * scale + box.width / 2,
    (SPECKS[0].y - 409.5) * scale + box.height / 2,
  ];
  await table.click({ position: { x: sx, y: sy } });
  const chosen = page.locator('[data-entry][aria-pressed=true]');
  await expect(chosen).toHaveCount(1);
  const proof = page.getByRole('region', { name: 'Proof' });
  await expect(proof.getByText('210, 90')).toBeVisible();

  // The same fault close up: the table glides to it, and one key mends it.
  await chosen.click();
  const [cx, cy] = [box.width / 2, box.height / 2];
  await expect(page.getByTestId('zoom')).not.toHaveText(/^(4|5|6)\d %$/);
  await expect.poll(async () => (await colourAt(page, cx, cy)).length).toBe(3);
  await page.waitForTimeout(600);
  const dark = await colourAt(page, cx, cy);
  await page.getByRole('button', { name: 'Original' }).hover();
  await chosen.focus();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('ArrowUp');
  await page.waitForTimeout(600);
  const entry = await page.locator('[data-entry][aria-pressed=true]').getAttribute('data-entry');
  await page.keyboard.press('Enter');
  const line = page.locator(`[data-entry="${entry}"]`);
  await expect(line).toHaveAttribute('data-state', 'mended');
  await line.click();
  await page.waitForTimeout(400);
  await expect.poll(async () => (await colourAt(page, cx, cy))[1]).toBeGreaterThan(dark[1] + 15);

  // Before and after: held, and as a split.
  await page.keyboard.down('x');
  await expect.poll(async () => Math.abs((await colourAt(page, cx, cy))[1] - dark[1])).toBeLessThan(12);
  await page.keyboard.up('x');
  await expect.poll(async () => (await colourAt(page, cx, cy))[1]).toBeGreaterThan(dark[1] + 15);
  await page.keyboard.press('q');
  const handle = page.getByRole('slider', { name: 'Where before meets after' });
  await handle.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => Math.abs((await colourAt(page, cx, cy))[1] - dark[1])).toBeLessThan(12);
  await page.keyboard.press('q');
  await expect(handle).toBeHidden();

  // Undo and redo.
  await page.keyboard.press('Control+z');
  await expect(line).toHaveAttribute('data-state', 'open');
  await page.keyboard.press('Control+Shift+z');
  await expect(line).toHaveAttribute('data-state', 'mended');

  // All of them at once.
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByTestId('mend-chosen').click();
  await expect(page.getByText(/^0 open of/)).toBeVisible({ timeout: 60_000 });

  // Nothing is lost when server and database go and come back.
  const settled = await page.getByText(/^0 open of/).textContent();
  await expect(page.getByText('saving')).toBeHidden();
  await application.restartServer();
  await application.restartDatabase();
  await page.reload();
  await expect(page.getByText(settled ?? '')).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^0 open of/)).toBeHidden();
  await page.keyboard.press('Control+Shift+z');
  await expect(page.getByText(settled ?? '')).toBeVisible();

  // Hand over at full depth.
  await page.getByRole('link', { name: 'Hand over' }).click();
  await page.getByTestId('deliver').click();
  const save = page.getByRole('link', { name: /^Save, / });
  await expect(save).toBeVisible({ timeout: 30_000 });
  const [download] = await Promise.all([page.waitForEvent('download'), save.click()]);
  expect(download.suggestedFilename()).toBe('boats mended.tif');
  const path = await download.path();
  const header = await readHeader(path);
  expect(header).toMatchObject({ format: 'tiff', depth: 16, width: 1024, height: 819, density: 300 });

  // What the table showed is what the file holds.
  const { raster } = await decodePicture(path);
  const pictureId = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  await toStage(page, 'Mend');
  await expect(page.getByText(settled ?? '')).toBeVisible();
  const samples = await workerSamples(page, pictureId);
  let [worst, different, count] = [0, 0, 0];
  raster.planes.forEach((plane, c) => {
    const shown = new Uint16Array(samples[c].buffer, samples[c].byteOffset, plane.length);
    plane.forEach((value, i) => {
      const apart = Math.abs(value - shown[i]);
      worst = Math.max(worst, apart);
      if (apart > 0) different++;
      count++;
    });
  });
  expect(count).toBe(1024 * 819 * 3);
  expect(worst).toBeLessThanOrEqual(1);
  expect(different).toBeLessThanOrEqual(count / 1000);
  expect((await readFile(path)).length).toBeGreaterThan(100_000);
});

test('a place without a listed fault is mended by hand, with the mark at a size of its own', async ({
  quietPage: page,
}) => {
  await page.getByRole('link', { name: /Boats/ }).click();
  await page.locator('[data-picture="boats.tif"]').click();
  await toStage(page, 'Mend');
  await expect(page.getByText(/^0 open of/)).toBeVisible();
  // Keys faster than the table glides: it ends at the last fault, whose mark is then in the middle.
  for (let i = 0; i < 4; i++) await page.keyboard.press('ArrowDown');
  const last = await page.locator('[data-entry][aria-pressed=true]').getAttribute('data-entry');
  await page.waitForTimeout(500);
  const box = await page.getByTestId('table').boundingBox();
  await page
    .getByTestId('table')
    .click({ position: { x: (box?.width ?? 0) / 2, y: (box?.height ?? 0) / 2 } });
  await expect(page.locator('[data-entry][aria-pressed=true]')).toHaveAttribute('data-entry', last ?? '');
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'Whole' }).click();
  await page.keyboard.press('e');
  const size = page.getByLabel('Radius of the mark in pixels');
  await expect(size).toHaveValue('12');
  await page.getByTestId('table').hover({ position: { x: 500, y: 300 } });
  await page.keyboard.press('d');
  await expect(size).not.toHaveValue('12');
  await page.keyboard.press('v');
  await page.keyboard.press('v');
  await page.keyboard.press('v');
  await page.getByTestId('table').click({ position: { x: 420, y: 330 } });
  await expect(page.getByText('Mended by hand', { exact: true })).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText('Mended by hand', { exact: true })).toBeHidden();
});

test('two windows on one picture never lose an edit: the second catches up', async ({
  quietPage: page,
  context,
}) => {
  await page.getByRole('link', { name: /Boats/ }).click();
  await page.locator('[data-picture="boats.tif"]').click();
  await toStage(page, 'Mend');
  const other = await context.newPage();
  await other.goto(page.url());
  await expect(other.getByText(/^0 open of/)).toBeVisible();
  await page.keyboard.press('Control+z');
  await expect(page.getByText(/^0 open of/)).toBeHidden();
  await expect(other.getByText('Another window changed this picture.')).toBeVisible();
  await expect(other.getByText(/^0 open of/)).toBeHidden();
  await other.keyboard.press('Control+Shift+z');
  await expect(page.getByText(/^0 open of/)).toBeVisible();
});
