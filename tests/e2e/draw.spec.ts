import sharp from 'sharp';
import { deskOf, drag, saved, toStage } from './desk.ts';
import { addFiles, colourAt, expect, makeJob, test } from './fixtures.ts';

const SIZE = { width: 400, height: 300 };

/** A light wall over a dark floor. */
const wall = (): Promise<Buffer> =>
  sharp({ create: { ...SIZE, channels: 3, background: { r: 190, g: 180, b: 170 } } })
    .composite([
      {
        input: { create: { width: 400, height: 100, channels: 3, background: { r: 60, g: 50, b: 40 } } },
        left: 0,
        top: 200,
      },
    ])
    .png()
    .toBuffer();

test('lost detail is drawn in a colour of the picture, in strokes that stay one drawing', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'A drawing');
  await addFiles(page, [{ name: 'wall.png', buffer: await wall() }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="wall.png"]').click();
  await toStage(page, 'Mend');
  await page.getByTestId('treat').click();
  await page.getByRole('menuitem', { name: /Draw/ }).click();
  const desk = await deskOf(page, SIZE);
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  const drawing = async (): Promise<Record<string, unknown> | undefined> =>
    (await saved(page)).recipe.mends.at(0);
  const toneAt = async (px: number, py: number): Promise<number> => {
    const [x, y] = desk.at(px, py);
    return (await colourAt(page, x - box.x, y - box.y))[0];
  };

  // The colour is taken from the floor, and laid on in full.
  await page.keyboard.down('a');
  await page.mouse.click(...desk.at(200, 250));
  await page.keyboard.up('a');
  await page.getByRole('spinbutton', { name: /Amount|How much a stroke/ }).fill('100');
  await page.keyboard.press('Enter');
  await page.mouse.click(box.x + 4, box.y + 4);
  await drag(page, [desk.at(100, 80), desk.at(300, 80)]);
  await expect.poll(async () => (await drawing())?.['method']).toBe('draw');
  const [red, green, blue] = (await drawing())?.['colour'] as number[];
  for (const [share, level] of [
    [red, 60],
    [green, 50],
    [blue, 40],
  ])
    expect(Math.abs(255 * share - level)).toBeLessThan(1);
  await expect.poll(() => toneAt(200, 80)).toBeLessThan(80);
  expect(await toneAt(200, 110)).toBeGreaterThan(170);

  // A second stroke belongs to the same drawing; it is named and faded as one.
  await drag(page, [desk.at(100, 140), desk.at(300, 140)]);
  await expect.poll(async () => ((await drawing())?.['paint'] as unknown[]).length).toBe(2);
  await page.keyboard.press('Escape');
  await page.getByRole('textbox', { name: 'Name' }).fill('Ridge of the wall');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await drawing())?.['name']).toBe('Ridge of the wall');
  await expect(page.locator('[data-entry]').filter({ hasText: 'Ridge of the wall' })).toBeVisible();
  const share = page.getByRole('slider', { name: 'How much of the treatment shows' });
  await share.focus();
  for (let k = 0; k < 10; k++) await page.keyboard.press('ArrowLeft');
  await expect.poll(async () => (await drawing())?.['share']).toBe(0.5);
  await expect.poll(() => toneAt(200, 140)).toBeGreaterThan(110);
});
