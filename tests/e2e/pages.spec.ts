import { rename } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { join } from 'node:path';
import sharp from 'sharp';
import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { smallPicture } from '../faults/pictures.ts';

test('the further pages of a file are taken in by one press, and stand in the job as in the file', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'From the scanner');
  const shelf = await sharp(await Promise.all([1, 2, 3].map((seed) => smallPicture(seed))), {
    join: { animated: true },
  })
    .tiff({ compression: 'lzw' })
    .toBuffer();
  await addFiles(page, [{ name: 'shelf.tif', buffer: shelf }]);
  const offer = page.getByRole('button', { name: 'The file holds 2 more pictures: take them' });
  await expect(offer).toBeVisible();
  await offer.focus();
  await page.keyboard.press('Enter');
  await expect(page.locator('[data-picture]')).toHaveCount(3);
  await expect(offer).toHaveCount(0);
  const names = await page
    .locator('[data-picture]')
    .evaluateAll((all) => all.map((one) => one.getAttribute('data-picture')));
  expect(names).toEqual(['shelf.tif', 'shelf-p2.tif', 'shelf-p3.tif']);
  await expect(page.getByText('Not examined')).toHaveCount(3);
});

test('an examination that cannot be done says why, and is done when it can be', async ({
  quietPage: page,
  application,
}) => {
  await makeJob(page, 'A bad disk');
  const file = await smallPicture(7);
  await addFiles(page, [{ name: 'lost.png', buffer: file }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  const path = join(application.storeFolder, 'originals', createHash('sha256').update(file).digest('hex'));
  await rename(path, `${path}.away`);
  await page.locator('[data-picture="lost.png"]').click();
  await page.getByTestId('examine').click();
  await expect(page.getByRole('alert')).toHaveText(/\w+ \w+ \w+/);
  await page.getByRole('link', { name: 'A bad disk' }).click();
  await expect(page.getByText(/The examination broke off\. \w+/)).toBeVisible();
  await rename(`${path}.away`, path);
  await page.locator('[data-picture="lost.png"]').click();
  await page.getByTestId('examine').click();
  await expect(page.getByTestId('examine')).toHaveText('Examine again');
  await expect(page.getByRole('alert')).toHaveCount(0);
});
