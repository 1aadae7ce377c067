import type { Page } from '@playwright/test';
import { deskOf, drag, openForMending, saved } from './desk.ts';
import { expect, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';
import { workerSamples } from './workerSamples.ts';

const SIZE = { width: 1024, height: 484 };

/** What the middle of the table shows: mean and spread of grey, and whether there is any colour. */
async function middleOf(page: Page): Promise<{ mean: number; isGrey: boolean }> {
  return page.evaluate(() => {
    const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=table] canvas');
    const context = canvas?.getContext('2d');
    if (!canvas || !context) throw new Error('there is no table');
    const side = 60;
    const { data } = context.getImageData(
      (canvas.width - side) >> 1,
      (canvas.height - side) >> 1,
      side,
      side,
    );
    let [sum, isGrey] = [0, true];
    for (let i = 0; i < data.length; i += 4) {
      sum += data[i + 1] / (side * side);
      if (Math.abs(data[i] - data[i + 2]) > 1) isGrey = false;
    }
    return { mean: sum, isGrey };
  });
}

/** The mean once all tiles in sight are painted: the same twice with a pause between. */
async function settledMean(page: Page): Promise<number> {
  let last = NaN;
  await expect
    .poll(
      async () => {
        const before = last;
        last = (await middleOf(page)).mean;
        return last === before;
      },
      { intervals: [400] },
    )
    .toBe(true);
  return last;
}

/** The brightest tone anywhere in the picture. */
async function brightestOf(page: Page): Promise<number> {
  const { at } = await deskOf(page, SIZE);
  return page.evaluate(
    ([[left, top], [right, bottom]]) => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=table] canvas');
      const context = canvas?.getContext('2d');
      if (!canvas || !context) throw new Error('there is no table');
      const box = canvas.getBoundingClientRect();
      const { data } = context.getImageData(left - box.left, top - box.top, right - left, bottom - top);
      return data.reduce((most, value, i) => (i % 4 === 1 && value > most ? value : most), 0);
    },
    [at(2, 2), at(SIZE.width - 2, SIZE.height - 2)].map((place) => place.map(Math.round)),
  );
}

/** Clones one place onto two others. */
async function repeatSource(page: Page): Promise<void> {
  const { at } = await deskOf(page, SIZE);
  await page.keyboard.press('r');
  await page.keyboard.down('a');
  await page.mouse.click(...at(560, 400));
  await page.keyboard.up('a');
  await page.getByRole('button', { name: /^Source (keeps|starts|stays)/ }).click();
  await page
    .locator('label')
    .filter({ has: page.getByRole('radio', { name: 'starts anew', exact: true }) })
    .click();
  await page.keyboard.press('Escape');
  for (const [x, y] of [
    [300, 330],
    [760, 350],
  ] as const)
    await drag(page, [at(x, y), at(x + 20, y)]);
  await page.keyboard.press('Escape');
}

test('every lamp shows the picture otherwise and leaves it as it is; mends are made under any of them', async ({
  quietPage: page,
}) => {
  const buffer = await speckedPhotograph('french-alpine-landscape', [{ x: 500, y: 60, r: 8 }], 8);
  await openForMending(page, { job: 'Under lamps', name: 'valley.png', buffer });
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const before = await workerSamples(page, id);
  const plain = await middleOf(page);
  expect(plain.isGrey).toBe(false);

  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Lamp: negative' })).toBeVisible();
  await expect.poll(async () => (await middleOf(page)).mean).toBeCloseTo(255 - plain.mean, -1);
  for (const lamp of ['local contrast', 'raking light', 'departure']) {
    await page.keyboard.press('c');
    await expect(page.getByRole('button', { name: `Lamp: ${lamp}` })).toBeVisible();
    await expect.poll(async () => (await middleOf(page)).isGrey).toBe(true);
  }
  expect(await workerSamples(page, id)).toEqual(before);

  // The lamp's own settings, by keys alone.
  await page.getByTestId('lamp').click();
  const least = page.getByRole('slider', { name: 'Least departure that is drawn' });
  await expect(least).toHaveAttribute('aria-valuenow', '2');
  await least.press('ArrowRight');
  await expect(least).toHaveAttribute('aria-valuenow', '2.2');
  await page.getByText('raking light').click();
  const light = page.getByRole('slider', { name: 'Light from' });
  await expect(light).toHaveAttribute('aria-valuenow', '225');
  await light.press('ArrowRight');
  await expect(light).toHaveAttribute('aria-valuenow', '240');
  await page.getByTestId('lamp').click();

  // A mend made under the lamp is there, and the lamp is still on after the picture was left.
  await page.locator('[data-entry]').first().click();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-entry]').first()).toContainText('✓');
  // A page that is left before that is asked whether it should be.
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(1);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Lamp: raking light' })).toBeVisible();
  await expect(page.locator('[data-entry]').first()).toContainText('✓');

  // Where the grain is missing is seen too.
  await page.keyboard.press('c');
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Lamp: missing grain' })).toBeVisible();
  await expect.poll(async () => (await middleOf(page)).isGrey).toBe(true);

  // So is where mends show one texture more than once: nowhere yet, and then on two that take from one place.
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Lamp: repeated texture' })).toBeVisible();
  await page.getByRole('button', { name: 'Whole' }).click();
  // White itself lies under it at 41 %; half the light that is missing comes over what shows twice.
  await expect.poll(() => brightestOf(page)).toBeLessThan(108);
  await repeatSource(page);
  await expect.poll(() => brightestOf(page)).toBeGreaterThan(130);

  // The tone it may be finished in is seen, and the ledger can be sorted by what will be visible in it.
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Lamp: as finished' })).toBeVisible();
  await expect.poll(async () => (await middleOf(page)).isGrey).toBe(false);
  const asItIs = await settledMean(page);
  await page.getByTestId('lamp').click();
  const black = page.getByRole('slider', { name: 'Black from' });
  for (let i = 0; i < 20; i++) await black.press('ArrowRight');
  await expect.poll(async () => (await middleOf(page)).mean).toBeLessThan(asItIs - 5);
  await page.getByTestId('lamp').click();
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Lamp: cut off' })).toBeVisible();
  await page.keyboard.press('c');
  await expect(page.getByRole('button', { name: 'Lamp: plain' })).toBeVisible();
  await expect.poll(async () => (await middleOf(page)).mean).toBeCloseTo(asItIs, 0);
});
