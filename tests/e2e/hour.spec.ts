import { deskOf, drag, openForMending, saved } from './desk.ts';
import { colourAt, expect, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';

/** Laid on the sky and the walls of the photograph of boats. */
const SPECKS = [
  { x: 210, y: 90, r: 9 },
  { x: 640, y: 120, r: 7 },
  { x: 420, y: 60, r: 12 },
  { x: 800, y: 60, r: 8 },
  { x: 900, y: 100, r: 10 },
  { x: 120, y: 140, r: 8 },
];
const SIZE = { width: 1024, height: 819 };

test.use({ contextOptions: { reducedMotion: 'no-preference' } });

test('a restorer’s hour in small: everything done by hand stays, and comes back after a reload', async ({
  quietPage: page,
}) => {
  const buffer = await speckedPhotograph('nagasaki-boats', SPECKS, 8);
  await openForMending(page, { job: 'An hour', name: 'boats.png', buffer });
  const desk = await deskOf(page, SIZE);
  const total = Number(/of (\d+)/.exec(await page.getByText(/open of/).innerText())?.[1]);

  // A round over all specks: two are mended, one that is none of them dismissed, and it can be left and resumed.
  await page.getByTestId('round').click();
  await expect(page.getByTestId('round-left')).toHaveText(`${total} left of ${total}`);
  await page.keyboard.press('Enter');
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-state=mended]')).toHaveCount(2);
  await page.keyboard.press('Backspace');
  await expect(page.locator('[data-state=dismissed]')).toHaveCount(1);
  await expect(page.getByTestId('round-left')).toHaveText(`${total - 3} left of ${total}`);
  await page.keyboard.press('Escape');
  await expect(page.getByTestId('round-left')).toBeHidden();
  await page.getByRole('button', { name: 'Resume' }).click();
  await expect(page.getByTestId('round-left')).toHaveText(`${total - 3} left of ${total}`);
  await page.getByRole('button', { name: 'Leave' }).click();

  // An outline, closed at its first corner, and dragged to where the good texture is.
  await page.getByRole('button', { name: 'Whole' }).click();
  await page.keyboard.press('e');
  await page.keyboard.press('o');
  for (const [x, y] of [
    [300, 180],
    [360, 180],
    [360, 230],
    [300, 230],
    [300, 180],
  ])
    await page.mouse.click(...desk.at(x, y));
  await expect(page.getByText('Mended by hand', { exact: true })).toBeVisible();
  await drag(page, [desk.at(330, 205), desk.at(420, 195), desk.at(450, 195)]);
  await expect
    .poll(async () => (await saved(page)).done.at(-1)?.words)
    .toBe('Dragged an outline to its source');
  const outline = (await saved(page)).recipe.mends.at(-1);
  expect(outline).toMatchObject({ method: 'heal', target: { shape: 'outline' } });
  const { dx, dy } = outline?.['source'] as { dx: number; dy: number };
  expect(Math.abs(dx - 120)).toBeLessThan(5);
  expect(Math.abs(dy + 10)).toBeLessThan(5);
  await page.keyboard.press('o');

  // A clone along an edge from a set source, then straight on with Shift; the second keeps the offset.
  await page.keyboard.press('r');
  await page.keyboard.down('a');
  await page.mouse.click(...desk.at(700, 300));
  await page.keyboard.up('a');
  await drag(page, [desk.at(600, 320), desk.at(620, 322), desk.at(650, 321)]);
  await expect.poll(async () => (await saved(page)).done.at(-1)?.words).toBe('Cloned along a stroke');
  await page.keyboard.down('Shift');
  await page.mouse.click(...desk.at(660, 360));
  await page.keyboard.up('Shift');
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(5);
  const [first, second] = (await saved(page)).recipe.mends.slice(-2) as {
    source: { dx: number; dy: number };
    target: { points: unknown[] };
  }[];
  expect(second.source).toEqual(first.source);
  expect(second.target.points).toHaveLength(2);
  await page.keyboard.press('Escape');

  // An old mend is changed: its share, then taken off and on.
  await page.getByLabel('Faults', { exact: true }).evaluate((list) => list.scrollTo(0, 0));
  await page.locator('[data-state=mended]').first().click();
  // The proof follows a little later.
  await expect(page.getByRole('region', { name: 'Proof' }).getByRole('heading')).toHaveText(/dark speck/);
  const share = page.getByLabel('Share of this mend in %');
  await share.fill('40');
  await share.press('Enter');
  await expect(page.locator('[data-state=lessened]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Off', exact: true }).click();
  await expect(page.locator('[data-state=lessened]')).toHaveCount(0);
  await page.getByRole('button', { name: 'On', exact: true }).click();
  await expect(page.locator('[data-state=lessened]')).toHaveCount(1);
  await page.getByRole('button', { name: 'Lock', exact: true }).click();
  await expect(share).toBeDisabled();
  await page.getByRole('button', { name: 'Unlock', exact: true }).click();
  await expect(share).toBeEnabled();

  // All ways to compare, in the middle of the outline: before and after differ, and each shows what it says.
  await page.getByRole('button', { name: 'Whole' }).click();
  await page.locator('[data-entry]').last().focus();
  const [wx, wy] = desk.at(625, 321);
  const box = await desk.table.boundingBox();
  const [x, y] = [wx - (box?.x ?? 0), wy - (box?.y ?? 0)];
  const seen = async (): Promise<number> => (await colourAt(page, x, y))[0];
  await page.waitForTimeout(300);
  const after = await seen();
  await page.keyboard.down('x');
  await expect.poll(async () => Math.abs((await seen()) - after)).toBeGreaterThan(8);
  // Coarse tiles are seen first, the fine ones follow.
  await page.waitForTimeout(500);
  const before = await seen();
  await page.keyboard.up('x');
  await expect.poll(seen).toBe(after);
  const compareBy = async (way: string): Promise<void> => {
    await page.getByRole('button', { name: 'Compare' }).click();
    const choice = page.getByRole('radio', { name: way, exact: true });
    await expect(choice).toBeVisible();
    await page.locator('label').filter({ has: choice }).click();
    await expect(choice).toBeChecked();
    await page.getByRole('button', { name: 'Compare' }).click();
    await expect(choice).toBeHidden();
  };
  await compareBy('stacked');
  await expect.poll(seen).toBe(before);
  await compareBy('side by side');
  const half = (box?.width ?? 0) / 4;
  await expect.poll(async () => (await colourAt(page, x - half, y))[0]).toBe(before);
  await compareBy('difference');
  await expect.poll(async () => Math.abs((await seen()) - 128)).toBeGreaterThan(40);
  await compareBy('blinking');
  await expect.poll(seen, { intervals: [50] }).toBe(before);
  await expect.poll(seen, { intervals: [50] }).toBe(after);
  await compareBy('none');
  await expect.poll(seen).toBe(after);

  // Back to the beginning and forward again, step by step from the list, over a reload.
  const there = await saved(page);
  expect(there.done.length).toBeGreaterThanOrEqual(10);
  for (let i = 0; i < 20; i++) await page.keyboard.press('Control+z');
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(0);
  await expect.poll(seen).toBe(before);
  await page.getByRole('button', { name: 'History' }).click();
  await page.getByRole('list', { name: 'History' }).getByRole('button').first().click();
  await expect.poll(async () => (await saved(page)).done.length).toBe(there.done.length);
  await page.keyboard.press('Escape');
  await page.reload();
  await expect(page.locator('[data-state=dismissed]')).toHaveCount(1);
  expect((await saved(page)).recipe).toEqual(there.recipe);
  await expect.poll(seen).toBe(after);
});

test('a sweep mends every fault under it, each for itself, as one step', async ({ quietPage: page }) => {
  const buffer = await speckedPhotograph('nagasaki-boats', SPECKS, 8);
  await openForMending(page, { job: 'A sweep', name: 'swept.png', buffer });
  const desk = await deskOf(page, SIZE);
  await page.keyboard.press('w');
  await page.getByLabel('Radius of the mark in pixels').fill('20');
  await page.getByLabel('Radius of the mark in pixels').press('Enter');
  await drag(page, [desk.at(190, 95), desk.at(420, 60), desk.at(660, 125)]);
  await expect.poll(async () => (await saved(page)).done.length).toBe(1);
  const { recipe, done } = await saved(page);
  expect(recipe.mends.length).toBeGreaterThanOrEqual(3);
  expect(done[0].words).toBe(`Recovered ${recipe.mends.length} specks`);
  expect(recipe.mends.every((mend) => (mend['target'] as { shape: string }).shape === 'disc')).toBe(true);
  await page.keyboard.press('Control+z');
  await expect(page.locator('[data-state=mended]')).toHaveCount(0);
});

test('a hundred decisions of a round, as fast as the keys come, are all carried out', async ({
  quietPage: page,
}) => {
  const specks = Array.from({ length: 130 }, (_, i) => ({
    x: 40 + 72 * (i % 13),
    y: 30 + 38 * Math.floor(i / 13),
    r: 4 + (i % 3),
  }));
  const buffer = await speckedPhotograph('nagasaki-boats', specks, 8);
  await openForMending(page, { job: 'A round', name: 'specks.png', buffer });
  await page.getByTestId('round').click();
  const left = page.getByTestId('round-left');
  const total = Number(/of (\d+)/.exec(await left.innerText())?.[1]);
  expect(total).toBeGreaterThan(100);
  for (let i = 0; i < 100; i++) {
    const line = page.locator('[data-entry][aria-pressed=true]');
    const before = await line.getAttribute('data-entry');
    await page.keyboard.press(i % 5 === 4 ? 'Backspace' : 'Enter');
    // Looked for at every frame: a wait that asks ever more seldom is no faster than a hand.
    await page.waitForFunction(
      (last) =>
        document.querySelector('[data-entry][aria-pressed=true]')?.getAttribute('data-entry') !== last,
      before,
      { polling: 'raf' },
    );
  }
  await expect(left).toHaveText(`${total - 100} left of ${total}`);
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(80);
  expect((await saved(page)).done).toHaveLength(100);
});
