import type { Page } from '@playwright/test';
import { deskOf, drag, openForMending, saved } from './desk.ts';
import { expect, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';

/** The photograph of boats is this large. */
const SIZE = { width: 1024, height: 740 };
const SPECKS = [
  { x: 210, y: 90, r: 9 },
  { x: 640, y: 120, r: 7 },
  { x: 420, y: 60, r: 12 },
];

interface Marked {
  readonly id: string;
  readonly kind: string;
  readonly x: number;
  readonly y: number;
  readonly r: number;
  readonly outline?: unknown;
}

const sheetOf = async (page: Page) =>
  (await saved(page)) as unknown as { marked: Marked[]; kinds: Record<string, string> };

async function openBoats(page: Page, job: string): Promise<void> {
  const buffer = await speckedPhotograph('nagasaki-boats', SPECKS, 8);
  await openForMending(page, { job, name: 'boats.png', buffer });
}

test('what is marked by hand is measured by itself, gets another kind, is set aside and taken off', async ({
  quietPage: page,
}) => {
  await openBoats(page, 'Marking');
  const desk = await deskOf(page, SIZE);
  // A click beside the middle of a shadow marks the whole of it, as large as it is.
  await page.keyboard.press('m');
  await page.mouse.click(...desk.at(423, 63));
  await expect.poll(async () => (await sheetOf(page)).marked.length).toBe(1);
  const [shadow] = (await sheetOf(page)).marked;
  expect(shadow.kind).toBe('speck');
  expect(Math.hypot(shadow.x - 420, shadow.y - 60)).toBeLessThan(3);
  expect(shadow.r).toBeGreaterThan(8);
  expect(shadow.r).toBeLessThan(16);
  const line = page.locator(`[data-entry="${shadow.id}"]`);
  await expect(line).toHaveAttribute('aria-pressed', 'true');

  // Near the lower border all of a mark's menu still lies on the table.
  await page.mouse.click(...desk.at(300, 720));
  await expect.poll(async () => (await sheetOf(page)).marked.length).toBe(2);
  await page.keyboard.press('Escape');
  await page.mouse.click(...desk.at(300, 720), { button: 'right' });
  const [menu, room] = [await page.getByRole('menu').boundingBox(), await desk.table.boundingBox()];
  if (!menu || !room) throw new Error('there is no menu');
  expect(menu.y + menu.height).toBeLessThan(room.y + room.height + 1);
  await page.getByRole('menuitem', { name: 'Take off the ledger' }).click();
  await expect.poll(async () => (await sheetOf(page)).marked.length).toBe(1);
  await page.keyboard.press('m');

  // An outline is an area; it lies in the ledger under its kind, and the restorer may know better.
  await page.keyboard.press('o');
  const corners = [
    [700, 40],
    [760, 40],
    [760, 90],
    [700, 90],
  ] as const;
  for (const [x, y] of corners) await page.mouse.click(...desk.at(x, y));
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await sheetOf(page)).marked.length).toBe(2);
  const area = (await sheetOf(page)).marked[1];
  expect(area.outline).toHaveLength(4);
  await page.keyboard.press('Escape');
  await page.getByTestId('kind').click();
  await page.getByRole('option', { name: 'intruder' }).click();
  await expect.poll(async () => (await sheetOf(page)).kinds[area.id]).toBe('intruder');
  await expect(page.getByText('Intruders')).toBeVisible();

  // Set aside it is out of the way; undo brings it back, Delete takes the mark off the ledger.
  await page.getByRole('button', { name: 'More that can be done' }).click();
  await page.getByRole('menuitem', { name: 'Set aside' }).click();
  await expect(page.locator(`[data-entry="${area.id}"]`)).toHaveAttribute('data-state', 'set aside');
  await page.keyboard.press('Control+z');
  await expect(page.locator(`[data-entry="${area.id}"]`)).toHaveAttribute('data-state', 'open');
  await page.locator(`[data-entry="${area.id}"]`).click();
  await page.keyboard.press('Delete');
  await expect(page.locator(`[data-entry="${area.id}"]`)).toHaveCount(0);
  // As high as all that is listed, so that its row is drawn.
  await page.setViewportSize({ width: 1280, height: 2000 });
  await page.reload();
  await expect(line).toBeVisible();
  expect((await sheetOf(page)).marked).toHaveLength(1);
});

test('the mended picture is looked at again, and the work is held against what was thought', async ({
  quietPage: page,
}) => {
  await openBoats(page, 'Left over');
  const desk = await deskOf(page, SIZE);
  // A hard copy of a dark place, laid into the sky.
  await page.keyboard.press('r');
  await page.keyboard.down('a');
  await page.mouse.click(...desk.at(420, 60));
  await page.keyboard.up('a');
  await page.mouse.click(...desk.at(540, 60));
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(1);
  await page.keyboard.press('Escape');
  await page.getByRole('button', { name: 'More that can be done' }).click();
  await page.getByRole('menuitem', { name: 'Look for what is left' }).click();
  await expect(page.getByText('The mended picture was examined')).toBeVisible({ timeout: 60_000 });
  const after = page.getByText('After mending', { exact: true });
  await expect(after).toBeVisible();

  // All that is open is dismissed: the picture is done, and its estimate is held against the time it took.
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByRole('button', { name: 'Dismiss', exact: true }).click();
  await expect(page.locator('[data-state=open]')).toHaveCount(0);
  await page.getByRole('link', { name: 'Intake', exact: true }).click();
  await expect(page.getByText(/^thought .+, took .+ %\)$/)).toBeVisible();
  await page.getByRole('link', { name: 'Work and print sizes' }).click();
  await expect(page.getByRole('row', { name: /boats\.png/ })).toContainText('thought');
  const aside = page.getByRole('switch', { name: 'Set boats.png aside' });
  await aside.press('Space');
  await expect(aside).toBeChecked();
  await page.getByRole('link', { name: 'Left over', exact: true }).click();
  await expect(page.getByText('Set aside', { exact: true })).toBeVisible();
});

test('a line drawn over the chart dismisses what is larger', async ({ quietPage: page }) => {
  await openBoats(page, 'Chart');
  const before = await page.locator('[data-state=open]').count();
  for (const [control, choice] of [
    ['chart-shape', 'a line above'],
    ['chart-act', 'dismiss'],
  ]) {
    await page.getByTestId(control).click();
    await page.getByRole('option', { name: choice }).click();
  }
  const chart = await page.getByTestId('chart').boundingBox();
  if (!chart) throw new Error('there is no chart');
  // Upright, between the radii of the larger shadow and of the others.
  await drag(page, [
    [chart.x + 232, chart.y + 30],
    [chart.x + 232, chart.y + 80],
    [chart.x + 232, chart.y + 130],
  ]);
  await expect(page.locator('[data-state=dismissed]').first()).toBeVisible();
  const dismissed = await page.locator('[data-state=dismissed]').count();
  expect(dismissed).toBeGreaterThan(0);
  expect(dismissed).toBeLessThan(before);
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-state=dismissed]')).toHaveCount(0);
});

/** Keeps what the marks' canvas holds in the page, under a name. */
const keepMarks = (page: Page, name: string): Promise<void> =>
  page.evaluate((as) => {
    const canvas = document.querySelectorAll<HTMLCanvasElement>('[data-testid=table] canvas')[1];
    const data = canvas.getContext('2d')?.getImageData(0, 0, canvas.width, canvas.height).data;
    Reflect.set(window, as, data);
  }, name);

/** Leads through the four ways in which marks are shown, which draws all of them anew. */
async function turnMarks(page: Page): Promise<void> {
  for (let turn = 0; turn < 4; turn++) await page.keyboard.press('v');
  await page.waitForTimeout(300);
}

/** How many values of the marks kept under two names differ to the eye, and how many are drawn. */
const compareMarks = (page: Page, names: readonly string[]): Promise<number[]> =>
  page.evaluate((kept) => {
    const [a, b] = kept.map((name) => Reflect.get(window, name) as Uint8ClampedArray);
    return [a.filter((value, i) => Math.abs(value - b[i]) > 2).length, a.filter((value) => value > 0).length];
  }, names);

test('the numbers of marks get their own letters when these come late', async ({ quietPage: page }) => {
  let bring = (): void => undefined;
  const brought = new Promise<void>((resolve) => {
    bring = resolve;
  });
  await page.route(/plex-mono.*500.*woff2/, async (route) => {
    await brought;
    await route.continue();
  });
  await page.reload();
  await openBoats(page, 'Late letters');
  const desk = await deskOf(page, SIZE);
  await expect(page.locator('[data-entry]').nth(2)).toBeVisible();
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  await page.mouse.move(box.x + 20, box.y + box.height + 60);
  await page.waitForTimeout(300);
  await keepMarks(page, 'standIn');
  const arrival = page.evaluate(
    () => new Promise((resolve) => document.fonts.addEventListener('loadingdone', resolve)),
  );
  bring();
  await arrival;
  await page.waitForTimeout(300);
  await keepMarks(page, 'arrived');
  await turnMarks(page);
  await keepMarks(page, 'whole');
  expect((await compareMarks(page, ['standIn', 'arrived']))[0]).toBeGreaterThan(100);
  expect((await compareMarks(page, ['arrived', 'whole']))[0]).toBe(0);
});

test('marks that are drawn anew one by one look as if all were', async ({ quietPage: page }) => {
  await openBoats(page, 'Marks at rest');
  const desk = await deskOf(page, SIZE);
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  await expect(page.locator('[data-entry]').nth(2)).toBeVisible();
  const isSameDrawnWhole = async (): Promise<void> => {
    await page.mouse.move(box.x + 20, box.y + box.height + 60);
    await page.waitForTimeout(300);
    await keepMarks(page, 'oneByOne');
    await turnMarks(page);
    await keepMarks(page, 'whole');
    const [differing, drawn] = await compareMarks(page, ['oneByOne', 'whole']);
    expect(differing).toBe(0);
    expect(drawn).toBeGreaterThan(300);
  };
  await isSameDrawnWhole();
  // Chosen, mended, let go of, and undone: each changes a mark or two.
  await page.mouse.click(...desk.at(640, 120));
  await expect(page.locator('[data-entry][aria-pressed=true]')).toHaveCount(1);
  await isSameDrawnWhole();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-entry][data-state=mended]')).toHaveCount(1);
  await isSameDrawnWhole();
  await page.keyboard.press('Escape');
  await expect(page.locator('[data-entry][aria-pressed=true]')).toHaveCount(0);
  await isSameDrawnWhole();
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-entry][data-state=mended]')).toHaveCount(0);
  await isSameDrawnWhole();
});
