import { applyFinish } from '@fennip/core/finish';
import { createRaster, wholeWindow } from '@fennip/core/raster';
import type { FinishStep } from '@fennip/core/finish';
import sharp from 'sharp';
import { deskOf, saved, toStage } from './desk.ts';
import { addFiles, colourAt, expect, makeJob, test } from './fixtures.ts';
import { workerSamples } from './workerSamples.ts';

const SIZE = { width: 300, height: 200 };

/** A ramp from left to right, warmer than grey. */
function faded(): { raster: ReturnType<typeof createRaster>; png: Promise<Buffer> } {
  const raster = createRaster(SIZE.width, SIZE.height, 3, 8);
  const data = Buffer.alloc(3 * SIZE.width * SIZE.height);
  for (let i = 0; i < SIZE.width * SIZE.height; i++)
    for (let c = 0; c < 3; c++) {
      const value = Math.round(90 + 80 * ((i % SIZE.width) / SIZE.width)) - 8 * c;
      raster.planes[c][i] = value;
      data[3 * i + c] = value;
    }
  return {
    raster,
    png: sharp(data, { raw: { ...SIZE, channels: 3 } })
      .png()
      .toBuffer(),
  };
}

test('a finish comes after the mends: shown as it is delivered, kept, and taken back', async ({
  quietPage: page,
}) => {
  const { raster, png } = faded();
  await makeJob(page, 'A finish');
  await addFiles(page, [{ name: 'faded.png', buffer: await png }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="faded.png"]').click();
  await toStage(page, 'Mend');
  const desk = await deskOf(page, SIZE);
  const box = await desk.table.boundingBox();
  if (!box) throw new Error('there is no table');
  const [x, y] = desk.at(30, 100);
  const seen = async (): Promise<number> => (await colourAt(page, x - box.x, y - box.y))[0];
  await expect.poll(seen).toBeGreaterThan(90);

  const steps: FinishStep[] = [
    { id: 'l', on: true, share: 1, method: 'levels', tones: [{ black: 0.3, white: 0.7, gamma: 1 }] },
    { id: 'w', on: true, share: 0.5, method: 'colour', temperature: -0.2, tint: 0.05, saturation: 0.8 },
  ];
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  const status = await page.evaluate(
    async ([picture, finish]) => {
      const { revision } = await (await fetch(`/api/pictures/${picture}`)).json();
      const edit = {
        words: 'Finished',
        steps: finish.map((step, at) => ({ op: 'finish', step, at })),
      };
      const answer = await fetch(`/api/pictures/${picture}/edits`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ revision, edit }),
      });
      return answer.status;
    },
    [id, steps] as const,
  );
  expect(status).toBe(200);
  await page.reload();
  await expect.poll(seen).toBeLessThan(75);
  expect((await saved(page)).done.at(-1)?.words).toBe('Finished');
  const samples = await workerSamples(page, id);
  const wanted = applyFinish(wholeWindow(raster), steps, []);
  wanted.planes.forEach((plane, c) => expect(samples[c].equals(Buffer.from(plane as Uint8Array))).toBe(true));
  await expect(page.getByRole('button', { name: 'Undo', exact: true })).toBeEnabled();
  await page.keyboard.press('Control+z');
  await expect.poll(seen).toBeGreaterThan(90);
});

test('levels, a curve and colour are set on the page of the finish, in an order of their own, and reset', async ({
  quietPage: page,
}) => {
  const { png } = faded();
  await makeJob(page, 'Steps');
  await addFiles(page, [{ name: 'faded.png', buffer: await png }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator('[data-picture="faded.png"]').click();
  await toStage(page, 'Finish');
  const box = await page.getByTestId('table').boundingBox();
  if (!box) throw new Error('there is no table');
  const middle = async (): Promise<number> =>
    (await colourAt(page, Math.round(box.width / 2), Math.round(box.height / 2)))[0];
  await expect.poll(middle).toBeGreaterThan(100);
  const before = await middle();
  const steps = async (): Promise<Record<string, unknown>[]> =>
    ((await saved(page)).recipe as unknown as { finish?: Record<string, unknown>[] }).finish ?? [];

  await page.getByRole('button', { name: 'Auto contrast' }).click();
  await expect.poll(async () => (await steps()).length).toBe(1);
  const [{ tones }] = (await steps()) as { tones: { black: number; white: number }[] }[];
  expect(tones[0].black).toBeGreaterThan(0.25);
  expect(tones[0].white).toBeLessThan(0.72);
  const black = page.getByRole('slider', { name: 'Black', exact: true });
  await black.focus();
  for (let k = 0; k < 20; k++) await page.keyboard.press('ArrowRight');
  await expect.poll(async () => (await steps())[0]['tones']).not.toEqual(tones);
  await expect.poll(middle).toBeLessThan(before);

  // White is taken hold of on the histogram, of one channel alone.
  const tonesNow = async (): Promise<{ white: number }[]> =>
    (await steps())[0]['tones'] as { white: number }[];
  await page.getByRole('combobox', { name: 'Which colour channel is set' }).press('Enter');
  await page.getByRole('option', { name: 'Green' }).click();
  const [{ white }] = await tonesNow();
  await page.getByRole('slider', { name: 'White on the histogram' }).press('Shift+ArrowLeft');
  await expect
    .poll(async () => (await tonesNow()).map((tone) => Math.round(255 * (white - tone.white))))
    .toEqual([0, 10, 0]);

  // A point of the curve lifts the middle; its points are reached by keys as well.
  await page.getByRole('button', { name: 'Curve', exact: true }).click();
  const curve = page.getByRole('group', { name: /^Curve/ });
  const area = await curve.boundingBox();
  if (!area) throw new Error('there is no curve');
  await page.mouse.move(area.x + area.width / 2, area.y + area.height / 2);
  await page.mouse.down();
  await page.mouse.move(area.x + area.width / 2, area.y + area.height / 5, { steps: 4 });
  await page.mouse.up();
  await expect.poll(async () => ((await steps())[1]['points'] as unknown[]).length).toBe(3);
  await expect.poll(middle).toBeGreaterThan(before);
  await page.getByRole('slider', { name: 'Point 2 of the curve' }).focus();
  await page.keyboard.press('Delete');
  await expect.poll(async () => ((await steps())[1]['points'] as unknown[]).length).toBe(2);

  // A tone is taken hold of in the picture and drawn darker.
  await page.getByRole('button', { name: 'Hold a tone' }).click();
  const [midX, midY] = [box.x + box.width / 2, box.y + box.height / 2];
  const held = await middle();
  await page.mouse.move(midX, midY);
  await page.mouse.down();
  await page.mouse.move(midX, midY + 60, { steps: 3 });
  await expect.poll(middle).toBeLessThan(held);
  await page.mouse.up();
  await expect.poll(async () => ((await steps())[1]['points'] as unknown[]).length).toBe(3);
  await page.keyboard.press('Escape');

  await page.getByRole('button', { name: 'Auto balance' }).click();
  await expect.poll(async () => (await steps()).at(2)?.['method']).toBe('colour');
  await page.getByRole('button', { name: 'Colour earlier' }).click();
  await expect
    .poll(async () => (await steps()).map(({ method }) => method))
    .toEqual(['levels', 'colour', 'curve']);
  await page.getByRole('button', { name: 'Reset all' }).click();
  await expect.poll(async () => (await steps()).length).toBe(0);
  await expect.poll(middle).toBe(before);
});
