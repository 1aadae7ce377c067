import type { Page } from '@playwright/test';
import { drag, openForMending, toStage } from './desk.ts';
import { expect, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';

/** On the sky and the walls of the photograph of boats; the last one is the faintest to the eye. */
const SPECKS = [
  { x: 210, y: 90, r: 9 },
  { x: 640, y: 120, r: 7 },
  { x: 420, y: 60, r: 12 },
  { x: 800, y: 60, r: 8 },
  { x: 900, y: 100, r: 10 },
  { x: 540, y: 170, r: 8 },
];

/** As high as all that is listed, so that every row is drawn. */
const HIGH = { width: 1280, height: 3000 };

const ids = (page: Page): Promise<string[]> =>
  page
    .locator('[data-entry]')
    .evaluateAll((entries) => entries.map((entry) => entry.getAttribute('data-entry') ?? '').sort());

/** How many the profile says are listed. */
async function listed(page: Page): Promise<number> {
  return Number(/(\d+) listed/.exec(await page.getByText(/ listed, /).innerText())?.[1]);
}

test('the cut is moved, faults are chosen in the chart and mended at once, and every decision outlives the next look', async ({
  quietPage: page,
}) => {
  await page.setViewportSize(HIGH);
  const buffer = await speckedPhotograph('nagasaki-boats', SPECKS, 8);
  await openForMending(page, { job: 'Deciding', name: 'boats.png', buffer });
  await toStage(page, 'Examine');
  const cut = page.getByTestId('confidence');
  await expect(cut).toBeVisible();
  const usual = await ids(page);
  expect(usual.length).toBeGreaterThanOrEqual(SPECKS.length);
  expect(await listed(page)).toBe(usual.length);

  // By keys the cut goes up, and the list follows; back again it is the same list with the same numbers.
  for (let i = 0; i < 14; i++) await cut.press('ArrowRight');
  await expect.poll(async () => (await ids(page)).length).toBeLessThan(usual.length);
  await expect.poll(async () => (await listed(page)) - (await ids(page)).length).toBe(0);
  for (let i = 0; i < 14; i++) await cut.press('ArrowLeft');
  await expect.poll(() => ids(page)).toEqual(usual);

  // One is dismissed; all that the chart shows is chosen by drawing over it, and mended as one step.
  await page.locator('[data-entry]').first().click();
  const dismissed = await page.locator('[data-entry]').first().getAttribute('data-entry');
  await page.keyboard.press('Backspace');
  await expect(page.locator('[data-state=dismissed]')).toHaveCount(1);
  const chart = await page.getByRole('img', { name: 'Findings by radius and strength' }).boundingBox();
  if (!chart) throw new Error('there is no chart');
  await drag(page, [
    [chart.x + 4, chart.y + 4],
    [chart.x + 150, chart.y + 60],
    [chart.x + chart.width - 4, chart.y + chart.height - 4],
  ]);
  await expect(page.locator('[data-entry][aria-pressed=true]')).toHaveCount(usual.length);
  await page.getByTestId('mend-chosen').click();
  await expect(page.locator('[data-state=mended]')).toHaveCount(usual.length - 1);

  // Looked at again, more readily: what is new is open, and nothing that was decided has changed.
  for (let i = 0; i < 6; i++) await cut.press('ArrowLeft');
  await expect.poll(async () => (await ids(page)).length).toBeGreaterThan(usual.length);
  await page.getByTestId('examine').click();
  await expect.poll(() => ids(page)).toEqual(expect.arrayContaining(usual));
  await expect(page.locator('[data-state=mended]')).toHaveCount(usual.length - 1);
  await expect(page.locator('[data-state=dismissed]')).toHaveAttribute('data-entry', dismissed ?? '');
  const asked = await cut.getAttribute('aria-valuenow');
  await page.reload();
  await expect(cut).toHaveAttribute('aria-valuenow', asked ?? '');
  await expect(page.locator('[data-state=mended]')).toHaveCount(usual.length - 1);
  await expect(page.locator('[data-state=dismissed]')).toHaveAttribute('data-entry', dismissed ?? '');
});

test('wires are looked for when they are asked for, as real things and as one step, and not twice', async ({
  quietPage: page,
}) => {
  await page.setViewportSize(HIGH);
  const buffer = await speckedPhotograph('nagasaki-boats', SPECKS, 8);
  await openForMending(page, { job: 'Rigging', name: 'boats.png', buffer });
  await toStage(page, 'Examine');
  await expect(page.getByTestId('confidence')).toBeVisible();
  const usual = await ids(page);
  await page.getByTestId('find-wires').click();
  await expect.poll(async () => (await ids(page)).length).toBeGreaterThan(usual.length);
  const withWires = await ids(page);
  await expect(page.getByText('Intruders', { exact: true })).toBeVisible();

  await page.getByTestId('find-wires').click();
  await expect(page.getByText('No wire was found')).toBeVisible();
  expect(await ids(page)).toEqual(withWires);

  await page.keyboard.press('Control+z');
  await expect.poll(() => ids(page)).toEqual(usual);
});
