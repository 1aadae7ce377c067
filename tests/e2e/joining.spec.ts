import { readFile } from 'node:fs/promises';
import { fileURLToPath } from 'node:url';
import { addFiles, expect, makeJob, test } from './fixtures.ts';

const SCAN = 'valley-torn-in-two.tif';
const PATH = fileURLToPath(new URL(`../../packages/scenes/pictures/${SCAN}`, import.meta.url));

test('a print torn in two becomes one mended picture by three decisions', async ({ quietPage: page }) => {
  test.setTimeout(180_000);
  await makeJob(page, 'From the album');
  await addFiles(page, [{ name: SCAN, buffer: await readFile(PATH) }]);
  // One: join what lies on the scan.
  const joinPieces = page.getByRole('button', { name: `Join the pieces on ${SCAN}` });
  await joinPieces.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('status').filter({ hasText: 'all 2 pieces joined' })).toBeVisible({
    timeout: 60_000,
  });
  const joined = page.locator('[data-picture="valley-torn-in-two-joined.tif"]');
  await joined.click();
  await expect(page.locator('[data-entry]').first()).toBeVisible();
  // Two and three: all of its seams, mended.
  await page.getByRole('button', { name: 'Choose all' }).click();
  await page.getByRole('button', { name: /^Mend \d+$/ }).click();
  await expect(page.getByText(/^0 open of \d+$/)).toBeVisible({ timeout: 120_000 });
});
