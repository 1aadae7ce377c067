import { addFiles, expect, makeJob, test } from './fixtures.ts';
import { smallPicture } from '../faults/pictures.ts';

test('what is taken away lies in the bin, and is put back by the hand or from there', async ({
  quietPage: page,
}) => {
  await makeJob(page, 'Put aside');
  await addFiles(page, [{ name: 'harbour.png', buffer: await smallPicture(1) }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  const picture = page.locator('[data-picture="harbour.png"]');
  await page.getByRole('button', { name: 'Take out harbour.png' }).click();
  await expect(picture).toHaveCount(0);
  await page.getByTestId('put-back').click();
  await expect(picture).toBeVisible();

  await page.getByRole('link', { name: 'Fennip' }).click();
  await page.getByRole('button', { name: 'Take away Put aside' }).click();
  await expect(page.getByRole('link', { name: 'Put aside' })).toHaveCount(0);
  await page.getByRole('status').getByRole('link', { name: 'Bin' }).click();
  await page.getByRole('button', { name: 'Put back Put aside' }).click();
  await expect(page.locator('[data-binned="Put aside"]')).toHaveCount(0);
  await page.getByRole('link', { name: 'Fennip' }).click();
  await page.getByRole('link', { name: 'Put aside' }).click();
  await expect(picture).toBeVisible();

  await page.getByRole('link', { name: 'Fennip' }).click();
  await page.getByRole('link', { name: 'Behind the scenes' }).click();
  await expect(page.getByRole('heading', { name: 'Behind the scenes' })).toBeVisible();
  await expect(page.getByText(/GB free/)).toBeVisible();
});
