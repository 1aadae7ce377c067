import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { decodePicture } from '@fennip/files';
import { violations } from './accessibility.ts';
import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';
import type { SmallFrame } from './shoot.ts';
import { isSeen, leftOf, smallShoot } from './shoot.ts';

interface Delivered {
  readonly outcome: { readonly delivery?: string; readonly fileName?: string };
  readonly pictureId: string;
}

test('a shoot with one dusty sensor goes from intake to delivered files with a handful of decisions', async ({
  quietPage: page,
}) => {
  const frames = await smallShoot();
  await makeJob(page, 'Along the line');
  await addFiles(
    page,
    frames.map(({ name, file }) => ({ name, buffer: file })),
  );
  await expect(page.locator('[data-picture]')).toHaveCount(frames.length);
  await expect(page.getByText('Not examined')).toHaveCount(frames.length);

  // First decision: let it run.
  let decisions = 1;
  await page.getByRole('link', { name: 'Series: all frames at once' }).click();
  await expect(page.getByText('8 of 8 pictures')).toBeVisible();
  await page.getByRole('button', { name: 'Start the run' }).click();
  const run = page.locator('[data-run=series]');
  await expect(run).toBeVisible();
  await expect(run).toHaveAttribute('data-state', 'done', { timeout: 200_000 });
  await expect(run.getByTestId('run-line')).toHaveText(/Done · \d+ mends/);

  // The chart shows the sensor with its dirt, and the same place in every frame.
  await page.getByRole('link', { name: 'Halden M2' }).click();
  await expect(page.getByRole('heading', { name: 'Dust on Halden M2' })).toBeVisible();
  await expect(page.getByRole('region', { name: 'What speaks for this place' }).locator('img')).toHaveCount(
    8,
  );
  await page.keyboard.press('ArrowDown');
  await expect(page.getByRole('heading', { name: 'Place 2' })).toBeVisible();
  await expect(page.getByRole('img', { name: /Depth by f-number/ })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.goBack();

  // What is doubtful is decided by the eye, each place once for all frames.
  await expect(page.getByTestId('doubts')).toBeVisible();
  const doubts = page.getByRole('link', { name: 'Go through them' });
  if (await doubts.isVisible()) {
    await doubts.click();
    await expect(page.getByTestId('doubt').or(page.getByTestId('no-doubts'))).toBeVisible();
    expect(await violations(page)).toEqual([]);
    for (; decisions < 12; decisions++) {
      await expect(page.getByTestId('doubt').or(page.getByTestId('no-doubts'))).toBeVisible();
      if (await page.getByTestId('no-doubts').isVisible()) break;
      const left = await page.getByTestId('doubts-left').textContent();
      await page.keyboard.press('Enter');
      await expect(page.getByTestId('doubts-left')).not.toHaveText(left ?? '');
    }
    await page.getByRole('link', { name: 'Back to the series' }).click();
    await expect(page.locator('[data-state=running]')).toHaveCount(0, { timeout: 60_000 });
  }

  // Last decision: hand over.
  decisions++;
  await page.getByText('Deliver', { exact: true }).first().click();
  await page.getByRole('textbox', { name: 'File names' }).fill('{job} {number}');
  await expect(page.getByTestId('file-names').getByText('Along the line 1.jpg')).toBeVisible();
  await page.getByRole('button', { name: 'Deliver' }).click();
  const delivery = page.locator('[data-run=delivery]');
  await expect(delivery).toHaveAttribute('data-state', 'done', { timeout: 100_000 });
  expect(decisions).toBeLessThan(10);

  // The truth: of the shadows that could be seen, hardly anything is left.
  const href = await delivery.getByRole('link', { name: 'All files in one archive' }).getAttribute('href');
  const at = (path: string): string => new URL(path, page.url()).href;
  const archive = await page.request.get(at(href ?? ''));
  expect(archive.ok()).toBe(true);
  const pieces = (await (
    await page.request.get(at((href ?? '').replace('zip', 'pieces')))
  ).json()) as Delivered[];
  const folder = await mkdtemp(join(tmpdir(), 'fennip-shoot-'));
  try {
    const left: number[] = [];
    for (const [k, { outcome }] of pieces.entries()) {
      const file = join(folder, `${k}.jpg`);
      const answer = await page.request.get(at(`/api/deliveries/${outcome.delivery ?? ''}/file`));
      await writeFile(file, await answer.body());
      left.push(...remains(frames[k], (await decodePicture(file)).raster));
    }
    left.sort((a, b) => a - b);
    expect(left.length).toBeGreaterThan(100);
    // Half of all shadows are gone but for a tenth, nine in ten but for a quarter.
    expect(Math.abs(left[left.length >> 1])).toBeLessThan(0.1);
    expect(left[Math.floor(0.9 * left.length)]).toBeLessThan(0.25);
  } finally {
    await rm(folder, { recursive: true });
  }

  // The contact sheet turns into the places of the sensor by frame; each leads to where it lies.
  const job = new URL(page.url()).pathname.split('/')[2];
  await page.goto(at(`/jobs/${job}/pictures/${pieces[0].pictureId}/mend`));
  await page.getByTitle('All pictures of the job').click();
  await page.getByText('Places of the sensor', { exact: true }).click();
  await expect(page.locator('tbody tr')).toHaveCount(frames.length);
  const last = page
    .locator('tbody tr')
    .last()
    .getByRole('button', { name: /: mended$/ });
  await expect(last.first()).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await last.first().click();
  await expect(page).not.toHaveURL(new RegExp(pieces[0].pictureId));
  await expect(page.locator('[data-entry][aria-pressed=true][data-state=mended]')).toHaveCount(1);
});

test('frames that name no camera are grouped by hand, and every task of a series reads well', async ({
  quietPage: page,
}) => {
  const scan = await speckedPhotograph('french-alpine-landscape', [{ x: 300, y: 30, r: 9 }], 8);
  await makeJob(page, 'Two frames');
  await addFiles(page, [
    { name: 'one.png', buffer: scan },
    { name: 'two.png', buffer: scan },
  ]);
  await expect(page.getByText('Not examined')).toHaveCount(2);
  await page.getByRole('link', { name: 'Series: all frames at once' }).click();
  for (const task of ['Run', 'Carry over', 'Routines', 'Deliver', 'Cameras']) {
    await page.getByText(task, { exact: true }).first().click();
    await expect(page.getByText('Camera not known')).toBeVisible();
    expect(await violations(page)).toEqual([]);
  }
  await page.getByRole('checkbox', { name: 'Camera not known' }).press('Space');
  await page.getByRole('combobox', { name: 'Taken with' }).fill('Glass of the Orme scanner');
  await page.getByRole('checkbox', { name: /Pictures of nothing/ }).press('Space');
  await page.getByRole('button', { name: 'Say so for these' }).click();
  await expect(page.getByText('Glass of the Orme scanner')).toBeVisible();
  await page.getByRole('button', { name: 'Pictures of Glass of the Orme scanner, one by one' }).click();
  await expect(page.getByText('a picture of nothing', { exact: true })).toHaveCount(2);
});

/** How much is left of each shadow that could be seen in a frame and is at least a few pixels wide. */
const remains = (frame: SmallFrame, mended: Parameters<typeof leftOf>[0]): number[] =>
  frame.shadows
    .filter((shadow) => shadow.r >= 2 && shadow.depth >= 0.1 && isSeen(frame, shadow))
    .map((shadow) => leftOf(mended, frame.raster, shadow));
