import { mulberry } from '@fennip/core/random';
import { polygonPixels } from '@fennip/core/target';
import type { Page } from '@playwright/test';
import sharp from 'sharp';
import { deskOf, drag, saved, toStage } from './desk.ts';
import { addFiles, colourAt, expect, makeJob, test } from './fixtures.ts';
import { tornPhotograph } from './pictures.ts';

/** A piece torn out of the trees at the foot of the mountains. */
const LOST = [
  [300, 350],
  [352, 342],
  [366, 385],
  [330, 408],
  [296, 390],
] as const;
const SIZE = { width: 1024, height: 484 };

/** The workers of a page that rebuild. */
const rebuildersOf = (page: Page) => page.workers().filter((worker) => worker.url().includes('rebuilder'));

/** How many patches the browser keeps. */
const keptIn = (page: Page): Promise<number> =>
  page.evaluate(async () => {
    // To open one that is not there would make it.
    const isThere = (await indexedDB.databases()).some(({ name }) => name === 'fennip-patches');
    if (!isThere) return 0;
    const done = <T>(request: IDBRequest<T>): Promise<T> =>
      new Promise((resolve, reject) => {
        request.onsuccess = () => resolve(request.result);
        request.onerror = () => reject(new Error('nothing can be read'));
      });
    const database = await done(indexedDB.open('fennip-patches'));
    const count = await done(database.transaction('patches').objectStore('patches').count());
    database.close();
    return count;
  });

test('a torn-out piece is rebuilt from the rest of the picture, another proposal taken, and both can be undone', async ({
  quietPage: page,
}) => {
  const buffer = await tornPhotograph('french-alpine-landscape', LOST);
  await makeJob(page, 'A loss');
  await addFiles(page, [{ name: 'torn.png', buffer }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="torn.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, SIZE);
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  const [x, y] = desk.at(330, 377);
  const seen = async (): Promise<number> => (await colourAt(page, x - box.x, y - box.y))[0];
  await expect.poll(seen).toBeGreaterThan(225);

  // Around the loss, a little outside of it, closed at the first corner.
  await page.keyboard.press('y');
  await page.keyboard.press('o');
  const around = LOST.map(([px, py]): [number, number] => [330 + 1.12 * (px - 330), 377 + 1.12 * (py - 377)]);
  for (const [px, py] of [...around, around[0]]) await page.mouse.click(...desk.at(px, py));
  await expect.poll(async () => (await saved(page)).done.at(-1)?.words).toBe('Rebuilt an outline');
  await expect.poll(seen).toBeLessThan(200);
  const [mend] = (await saved(page)).recipe.mends;
  expect(mend).toMatchObject({ method: 'rebuild', seed: 1, guides: [] });
  await expect.poll(() => keptIn(page)).toBe(1);

  await page.keyboard.press('Escape');
  const proposal = page.locator('.sources button').nth(1);
  await expect(proposal).toBeVisible();
  await page.keyboard.press('2');
  await expect.poll(async () => (await saved(page)).recipe.mends.at(0)?.['seed']).toBe(2);
  await expect.poll(seen).toBeLessThan(200);
  await expect.poll(() => keptIn(page)).toBe(2);
  // A part of another proposal is painted over it, in two strokes; it stays a mend of its own.
  await page.getByRole('button', { name: 'Paint another over it' }).click();
  await page.getByText('Pen', { exact: true }).click();
  const size = page.getByLabel('Radius of the mark in pixels');
  await size.fill('7');
  await size.press('Enter');
  await drag(page, [desk.at(318, 366), desk.at(334, 372)]);
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(2);
  await drag(page, [desk.at(318, 380), desk.at(334, 386)]);
  await expect
    .poll(async () => (await saved(page)).recipe.mends.at(1))
    .toMatchObject({ method: 'rebuild', seed: 1, paint: [{ lays: 'in' }, { lays: 'in' }] });
  expect((await saved(page)).recipe.mends[0]).toMatchObject({ method: 'rebuild', seed: 2 });
  await expect.poll(() => keptIn(page)).toBe(3);
  const asLeft = await seen();
  expect(rebuildersOf(page)).toHaveLength(1);
  // What was rebuilt once is not rebuilt again.
  await page.reload();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
  await expect.poll(seen).toBe(asLeft);
  expect(rebuildersOf(page)).toEqual([]);
  for (let i = 0; i < 4; i++) await page.keyboard.press('Control+z');
  await expect.poll(seen).toBeGreaterThan(225);
});

/** A bright sky over a dark shore that bends, with a piece gone where they meet. */
async function tornShore(): Promise<Buffer> {
  const [width, height] = [600, 400];
  const uniform = mulberry(3);
  const data = Buffer.alloc(3 * width * height);
  const gone = polygonPixels(
    [
      [270, 160],
      [330, 160],
      [330, 240],
      [270, 240],
    ],
    { left: 0, top: 0, width, height },
  );
  gone.forEach((isGone, i) => {
    const shore = 200 + 12 * Math.sin((i % width) / 60);
    const tone = (Math.floor(i / width) < shore ? 180 : 70) + Math.round(8 * uniform());
    data.fill(isGone ? 240 : tone, 3 * i, 3 * i + 3);
  });
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

test('an edge that runs into a loss is led through it', async ({ quietPage: page }) => {
  await makeJob(page, 'A shore');
  await addFiles(page, [{ name: 'shore.png', buffer: await tornShore() }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="shore.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, { width: 600, height: 400 });
  await page.keyboard.press('y');
  await page.keyboard.press('o');
  for (const [x, y] of [
    [267, 157],
    [333, 157],
    [333, 243],
    [267, 243],
    [267, 157],
  ])
    await page.mouse.click(...desk.at(x, y));
  const guides = async (): Promise<unknown[]> =>
    (await saved(page)).recipe.mends.flatMap((mend) => (mend['guides'] ?? []) as unknown[]);
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(1);
  await page.keyboard.press('Escape');
  const lead = page.getByRole('button', { name: 'Lead edges' });
  await lead.click();
  await expect.poll(guides).toHaveLength(1);
  await expect(lead).toHaveAttribute('aria-pressed', 'true');
  expect((await saved(page)).done.at(-1)?.words).toBe('Led 1 edge through a loss');
  await lead.click();
  await expect.poll(guides).toHaveLength(0);
});

/** A print with its lower left corner torn off: a grey picture in a light border. */
async function tornPrint(): Promise<Buffer> {
  const [width, height] = [520, 400];
  const uniform = mulberry(7);
  const data = Buffer.alloc(3 * width * height);
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++, i++) {
      const isGone = x + (height - y) < 120;
      const isBorder = x < 40 || y < 40 || x >= width - 40 || y >= height - 40;
      const tone = isGone ? 245 : (isBorder ? 205 : 110) + Math.round(8 * uniform());
      data.fill(tone, 3 * i, 3 * i + 3);
    }
  return sharp(data, { raw: { width, height, channels: 3 } })
    .png()
    .toBuffer();
}

test('a lost corner comes back square: one key leads its edges, a drawn one does the same, and all of it stays live', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'A corner');
  await addFiles(page, [{ name: 'print.png', buffer: await tornPrint() }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="print.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, { width: 520, height: 400 });
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  const toneAt = async (px: number, py: number): Promise<number> => {
    const [x, y] = desk.at(px, py);
    return (await colourAt(page, x - box.x, y - box.y))[0];
  };
  await page.keyboard.press('y');
  await page.keyboard.press('o');
  for (const [x, y] of [
    [0, 276],
    [124, 399],
    [0, 399],
    [0, 276],
  ])
    await page.mouse.click(...desk.at(x, y));
  const guides = async (): Promise<{ points: [number, number][] }[]> =>
    (await saved(page)).recipe.mends.flatMap((mend) => mend['guides'] as { points: [number, number][] }[]);
  await expect.poll(async () => (await saved(page)).recipe.mends.length).toBe(1);
  await page.keyboard.press('Escape');
  const edge = page.getByRole('group', { name: 'Edges, each for itself' }).getByRole('button', { name: 'a' });
  await expect(edge).toHaveAttribute('aria-pressed', 'false');
  await page.keyboard.press('Shift+Digit1');
  await expect(edge).toHaveAttribute('aria-pressed', 'true');
  const [corner] = await guides();
  const nearest = Math.min(...corner.points.map(([x, y]) => Math.hypot(x - 40, y - 360)));
  expect(nearest).toBeLessThan(4);
  await expect(page.getByTestId('rebuilding')).toBeHidden();
  // Inside of the corner the picture, outside of it the border, on both of its arms.
  for (const [x, y, isBorder] of [
    [56, 345, false],
    [22, 330, true],
    [22, 380, true],
    [70, 380, true],
  ] as const)
    await expect.poll(async () => (await toneAt(x, y)) > 160, { message: `at ${x}, ${y}` }).toBe(isBorder);

  // The same edge drawn by hand: point by point, ended by Enter, and carried on along what is seen of it.
  await page.keyboard.press('Shift+Digit1');
  await expect.poll(async () => (await guides()).length).toBe(0);
  await page.keyboard.press('j');
  for (const [x, y] of [
    [40, 260],
    [40, 360],
    [140, 360],
  ])
    await page.mouse.click(...desk.at(x, y));
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await guides()).length).toBe(1);
  const [drawn] = await guides();
  expect(Math.min(...drawn.points.map(([, y]) => y))).toBeLessThan(220);
  await expect.poll(async () => (await toneAt(22, 380)) > 160).toBe(true);
  await page.keyboard.press('Escape');

  // It may be told where alone to take from, and is let go again by a click.
  await page.keyboard.press('y');
  await page.getByRole('button', { name: 'Take from' }).click();
  await page.mouse.move(...desk.at(300, 250));
  await page.mouse.down();
  await page.mouse.move(...desk.at(480, 390), { steps: 5 });
  await page.mouse.up();
  const from = async (): Promise<unknown> => (await saved(page)).recipe.mends.at(0)?.['from'];
  await expect.poll(from).toMatchObject({ shape: 'outline' });
  await page.mouse.click(...desk.at(300, 200));
  await expect.poll(from).toBeUndefined();
});
