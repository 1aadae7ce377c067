import type { Raster } from '@fennip/core/raster';
import { comparePictures } from '@fennip/core/measure';
import { createRaster } from '@fennip/core/raster';
import sharp from 'sharp';
import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';
import { openForMending, toStage } from './desk.ts';
import { workerSamples } from './workerSamples.ts';

/** On the boards of the house, the busiest texture of the photograph. */
const SPECK = { x: 420, y: 420, r: 14 };

async function asRaster(file: Buffer): Promise<Raster> {
  const { data, info } = await sharp(file, { ignoreIcc: true })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  const raster = createRaster(info.width, info.height, 3, 8);
  raster.planes.forEach((plane, c) => {
    for (let i = 0; i < plane.length; i++)
      plane[i] = data[info.channels * i + Math.min(c, info.channels - 1)];
  });
  return raster;
}

test('a soft speck on a textured place is recovered, and the texture under it comes back', async ({
  quietPage: page,
}) => {
  const [clean, seen] = await Promise.all([
    speckedPhotograph('dust-bowl-home', [], 8).then(asRaster),
    speckedPhotograph('dust-bowl-home', [SPECK], 8),
  ]);
  await makeJob(page, 'Boards');
  await addFiles(page, [{ name: 'boards.png', buffer: seen }]);
  await page.locator('[data-picture="boards.png"]').click();
  await toStage(page, 'Mend');
  const table = page.getByTestId('table');
  const box = await table.boundingBox();
  if (!box) throw new Error('there is no table');
  const scale = Math.min((box.width - 48) / clean.width, (box.height - 48) / clean.height);
  // A rough click, a tenth of the speck's radius off, with a mark that is a little small.
  await page.keyboard.press('w');
  await expect(page.getByLabel('Radius of the mark in pixels')).toHaveValue('12');
  await table.click({
    position: {
      x: (SPECK.x + 1.2 - clean.width / 2) * scale + box.width / 2,
      y: (SPECK.y - 0.8 - clean.height / 2) * scale + box.height / 2,
    },
  });
  await expect(page.getByText('Mended by hand', { exact: true })).toBeVisible();
  await expect(page.getByRole('region', { name: 'Proof' }).getByText('recover').first()).toBeVisible();

  const pictureId = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  await expect
    .poll(async () => {
      const sheet = (await (
        await page.request.get(new URL(`/api/pictures/${pictureId}`, page.url()).href)
      ).json()) as {
        recipe: { mends: { method: string }[] };
      };
      return sheet.recipe.mends.map(({ method }) => method);
    })
    .toEqual(['recover']);
  const samples = await workerSamples(page, pictureId);
  const mended = createRaster(clean.width, clean.height, 3, 8);
  mended.planes.forEach((plane, c) => plane.set(samples[Math.min(c, samples.length - 1)]));
  const inside = Uint8Array.from({ length: clean.width * clean.height }, (_, i) => {
    const [x, y] = [(i % clean.width) + 0.5, Math.floor(i / clean.width) + 0.5];
    return Math.hypot(x - SPECK.x, y - SPECK.y) < 1.2 * SPECK.r ? 1 : 0;
  });
  const before = comparePictures(await asRaster(seen), clean, inside);
  const after = comparePictures(mended, clean, inside);
  expect(before.ssim).toBeLessThan(0.9);
  expect(after.ssim).toBeGreaterThan(0.97);
  expect((after.psnr ?? Infinity) - (before.psnr ?? 0)).toBeGreaterThan(12);
  expect(after.texture).toBeGreaterThan(0.93);
  expect(after.texture).toBeLessThan(1.07);
});

/**
 * Runs in the page: mends what is chosen and compares the first frame that shows it with the table at rest: the most
 * that a value differs, and by how much the mend changed one. As text, so that no build tool touches it.
 */
const FIRST_AND_LAST = `(async () => {
  const canvas = document.querySelector('[data-testid=table] canvas');
  const read = () => canvas.getContext('2d').getImageData(0, 0, canvas.width, canvas.height).data;
  const most = (a, b) => a.reduce((all, value, i) => Math.max(all, Math.abs(value - b[i])), 0);
  const before = read();
  document.querySelector('[data-testid=mend-chosen]').click();
  let first = before;
  while (most(before, first) === 0) {
    await new Promise((resolve) => requestAnimationFrame(resolve));
    first = read();
  }
  await new Promise((resolve) => setTimeout(resolve, 1500));
  const last = read();
  return { changed: most(before, last), differs: most(first, last) };
})()`;

test('a mend is shown before its tiles are painted, as they show it then', async ({ quietPage: page }) => {
  const seen = await speckedPhotograph('nagasaki-boats', [{ x: 300, y: 90, r: 12 }], 8);
  await openForMending(page, { job: 'Boats', name: 'boats.png', buffer: seen });
  const hit = page.locator('[data-entry]').first();
  await hit.click();
  await expect(hit).toHaveAttribute('aria-pressed', 'true');
  // The table has come to rest on it.
  await page.waitForTimeout(1500);
  const { changed, differs } = await page.evaluate<{ changed: number; differs: number }>(FIRST_AND_LAST);
  expect(changed).toBeGreaterThan(4);
  expect(differs).toBeLessThanOrEqual(1);
});
