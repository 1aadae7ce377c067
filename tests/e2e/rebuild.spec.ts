import { mulberry, polygonPixels } from '@fennip/core';
import sharp from 'sharp';
import { deskOf, saved } from './desk.ts';
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

test('a torn-out piece is rebuilt from the rest of the picture, another proposal taken, and both can be undone', async ({
  quietPage: page,
}) => {
  const buffer = await tornPhotograph('french-alpine-landscape', LOST);
  await makeJob(page, 'A loss');
  await addFiles(page, [{ name: 'torn.png', buffer }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="torn.png"]').click();
  await page.getByRole('link', { name: 'Mend', exact: true }).click();
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

  await page.keyboard.press('Escape');
  const proposal = page.locator('.sources button').nth(1);
  await expect(proposal).toBeVisible();
  await page.keyboard.press('2');
  await expect.poll(async () => (await saved(page)).recipe.mends.at(0)?.['seed']).toBe(2);
  await expect.poll(seen).toBeLessThan(200);
  await page.reload();
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
  // A table that is not drawn yet is black.
  await expect.poll(seen).toBeGreaterThan(20);
  await expect.poll(seen).toBeLessThan(200);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
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
  await page.getByRole('link', { name: 'Mend', exact: true }).click();
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
