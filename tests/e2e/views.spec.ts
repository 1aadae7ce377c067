import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { violations } from './accessibility.ts';
import { toStage } from './desk.ts';
import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';

test.describe.configure({ mode: 'serial' });

test.use({ contextOptions: { reducedMotion: 'no-preference' } });

/** Nothing may reach beyond the window. */
const overflow = (page: Page): Promise<number> =>
  page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth);

test('every view reads well for everyone and fits the window', async ({ quietPage: page }) => {
  expect(await violations(page)).toEqual([]);
  await makeJob(page, 'Views');
  expect(await violations(page)).toEqual([]);
  await addFiles(page, [
    {
      name: 'mountains.png',
      buffer: await speckedPhotograph('french-alpine-landscape', [{ x: 300, y: 30, r: 9 }], 8),
    },
    { name: 'words.txt.jpg', buffer: Buffer.from('words') },
  ]);
  await expect(page.getByText('This is not a picture.')).toBeVisible();
  await expect(page.getByText('Not examined')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.locator('[data-picture="mountains.png"]').click();
  await expect(page.getByText('Not examined yet.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByTestId('examine').click();
  await expect(page.locator('[data-entry]').first()).toBeVisible();
  await page.locator('[data-entry]').first().click();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-state=mended]')).toHaveCount(1);
  await page.waitForTimeout(300);
  expect(await violations(page)).toEqual([]);
  // With a method in hand, in a round, and with what unfolds.
  await page.keyboard.press('r');
  await expect(page.getByRole('toolbar', { name: 'Method in hand' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('button', { name: 'Compare' }).click();
  await expect(page.getByRole('radio', { name: 'blinking' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'History' }).click();
  await expect(page.getByRole('list', { name: 'History' })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await page.getByTestId('round').click();
  await expect(page.getByTestId('round-left')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  for (const [width, height] of [
    [1024, 700],
    [1280, 800],
    [1920, 1080],
    [820, 1180],
  ]) {
    await page.setViewportSize({ width, height });
    expect(await overflow(page)).toBeLessThanOrEqual(0);
  }
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.getByRole('button', { name: 'Leave' }).click();
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog')).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.keyboard.press('Escape');
  await toStage(page, 'Finish');
  await page.getByRole('button', { name: 'Curve', exact: true }).click();
  await expect(page.getByRole('group', { name: /^Curve/ })).toBeVisible();
  expect(await violations(page)).toEqual([]);
  await page.getByRole('link', { name: 'Hand over' }).click();
  await expect(page.getByText('None yet.')).toBeVisible();
  expect(await violations(page)).toEqual([]);
});

test('the table turns, zooms and shows sharp pixels, by wheel, keys and two fingers', async ({
  quietPage: page,
}) => {
  await page.getByRole('link', { name: /Views/ }).click();
  await page.locator('[data-picture="mountains.png"]').click();
  const zoom = page.getByTestId('zoom');
  await expect(zoom).toHaveText('91 %');
  const whole = await zoom.textContent();
  const table = page.getByTestId('table');
  await table.hover({ position: { x: 300, y: 200 } });
  await page.mouse.wheel(0, -600);
  await expect(zoom).not.toHaveText(whole ?? '');
  await page.keyboard.press('f');
  await expect(zoom).toHaveText('100 %');
  await page.keyboard.press('f');
  await expect(zoom).toHaveText(whole ?? '');
  for (let i = 0; i < 12; i++) await page.keyboard.press('+');
  await expect(zoom).toHaveText('3200 %');

  // At 32:1 a pixel of the picture is a square of one colour: no more than a few colours in a row of 64.
  // The pixels come with the frame after the one that tells the zoom.
  const coloursOfRow = () =>
    page.evaluate(() => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=table] canvas');
      const data = canvas?.getContext('2d')?.getImageData(400, 250, 64, 1).data ?? [];
      return new Set(Array.from({ length: 64 }, (_, i) => [...data.slice(4 * i, 4 * i + 3)].join())).size;
    });
  await expect.poll(coloursOfRow).toBeLessThanOrEqual(3);
  expect(await coloursOfRow()).toBeGreaterThan(0);

  await page.getByRole('button', { name: 'Whole' }).click();
  const box = await table.boundingBox();
  if (!box) throw new Error('there is no table');
  const session = await page.context().newCDPSession(page);
  const fingers = (spread: number) =>
    [-1, 1].map((side, id) => ({ x: box.x + 400 + side * spread, y: box.y + 250, id }));
  await session.send('Input.dispatchTouchEvent', { type: 'touchStart', touchPoints: fingers(40) });
  for (let spread = 50; spread <= 120; spread += 10)
    await session.send('Input.dispatchTouchEvent', { type: 'touchMove', touchPoints: fingers(spread) });
  await session.send('Input.dispatchTouchEvent', { type: 'touchEnd', touchPoints: [] });
  const pinched = Number.parseFloat((await zoom.textContent()) ?? '0');
  expect(pinched).toBeGreaterThan(2 * Number.parseFloat(whole ?? '0'));
});

test('a picture that is prepared before its table is there to hear of it is shown', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'Early');
  let release = (): void => undefined;
  const held = new Promise<void>((resolve) => (release = resolve));
  await page.route(/PictureStage-[^/]*\.js/, async (route) => {
    await held;
    await route.continue();
  });
  const asked = page.waitForResponse(/\/api\/pictures\/[^/]+$/);
  // Large enough to be opened before the first of its levels is written.
  const large = sharp(await speckedPhotograph('french-alpine-landscape', [], 8))
    .resize(5000)
    .png();
  await addFiles(page, [{ name: 'early.png', buffer: await large.toBuffer() }]);
  await page.locator('[data-picture="early.png"]').click();
  const sheet = (await (await asked).json()) as { picture: { id: string; state: string } };
  expect(sheet.picture.state).toBe('preparing');
  const stateNow = async (): Promise<unknown> =>
    (
      (await (
        await page.request.get(new URL(`/api/pictures/${sheet.picture.id}`, page.url()).href)
      ).json()) as typeof sheet
    ).picture.state;
  await expect.poll(stateNow).toBe('ready');
  release();
  await expect(page.getByTestId('table')).toBeVisible();
  await expect(page.getByText('The picture is being prepared.')).toBeHidden();
});
