import type { Page } from '@playwright/test';
import type { SmallProvider } from '../../packages/server/test/smallProvider.ts';
import { startSmallProvider } from '../../packages/server/test/smallProvider.ts';
import { smallPicture } from '../faults/pictures.ts';
import { violations } from './accessibility.ts';
import type { Application } from './application.ts';
import { startApplication } from './application.ts';
import { addFiles, expect, makeJob, test } from './fixtures.ts';

const PASSWORDS = { Ada: 'the incline in winter', Ben: 'a wagon under water' };

let provider: SmallProvider;
let application: Application;
test.beforeAll(async () => {
  provider = await startSmallProvider();
  const settings: Record<string, string> = {};
  application = await startApplication({ database: 'shared', settings });
  application.addAccount('Ada', 'runs', PASSWORDS.Ada);
  application.addAccount('Ben', 'works', PASSWORDS.Ben);
  Object.assign(settings, {
    FENNIP_SIGN_IN: 'always',
    FENNIP_OPENID_ISSUER: provider.issuer,
    FENNIP_OPENID_CLIENT_ID: provider.client.id,
    FENNIP_OPENID_CLIENT_SECRET: provider.client.secret,
    FENNIP_OPENID_NAME: 'the society',
  });
  await application.restartServer();
});
test.afterAll(async () => {
  await application.close();
  await provider.close();
});

/** Signs in by keys alone. */
async function signIn(page: Page, name: keyof typeof PASSWORDS): Promise<void> {
  await page.goto(application.address);
  await page.getByRole('textbox', { name: 'Name', exact: true }).focus();
  await page.keyboard.type(name);
  await page.keyboard.press('Tab');
  await page.keyboard.type(PASSWORDS[name]);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Jobs' })).toBeVisible();
}

test('people sign in, share a job, and see one another at a picture and in its history', async ({
  browser,
}) => {
  const ben = await (await browser.newContext()).newPage();
  const ada = await (await browser.newContext()).newPage();
  await ben.goto(application.address);
  expect(await violations(ben)).toEqual([]);
  await ben.getByRole('textbox', { name: 'Name', exact: true }).fill('Ben');
  await ben.getByRole('textbox', { name: 'Password' }).fill('a wagon under sand');
  await ben.keyboard.press('Enter');
  await expect(ben.getByRole('alert')).toHaveText('Name and password do not go together.');
  await signIn(ben, 'Ben');
  await makeJob(ben, 'A family album');
  await addFiles(ben, [{ name: 'harbour.png', buffer: await smallPicture(1) }]);
  await expect(ben.getByText('Not examined')).toBeVisible();

  await ben.getByTestId('readers').click();
  await ben.getByText('Everybody who can sign in').click();
  await expect(ben.getByTestId('readers')).toHaveText('Seen by everybody');
  expect(await violations(ben)).toEqual([]);
  await ben.keyboard.press('Escape');

  await signIn(ada, 'Ada');
  await ada.getByRole('link', { name: 'A family album' }).click();
  await ada.locator('[data-picture="harbour.png"]').click();
  await ben.locator('[data-picture="harbour.png"]').click();
  await expect(ben.getByText('also here: Ada')).toBeVisible();
  await expect(ada.getByText('also here: Ben')).toBeVisible();

  // One turns the picture's flaw into a fault; the other sees it, and by whom.
  for (const page of [ada, ben]) await page.getByRole('link', { name: /^Mend/ }).click();
  await ada.getByTestId('table').click({ position: { x: 300, y: 200 } });
  await ada.keyboard.press('e');
  await ada.getByTestId('table').click({ position: { x: 300, y: 200 } });
  const history = ben.getByRole('button', { name: 'History' });
  await history.click();
  await expect(ben.getByRole('list', { name: 'History' }).getByText('Ada')).toBeVisible();
  await ben.keyboard.press('Escape');

  await ada.close();
  await expect(ben.getByText('also here: Ada')).toHaveCount(0, { timeout: 60_000 });
  await ben.getByRole('button', { name: 'Sign out' }).click();
  await expect(ben.getByRole('heading', { name: 'Sign in' })).toBeVisible();
});

test('somebody who was invited comes in over the provider', async ({ browser }) => {
  const ada = await (await browser.newContext()).newPage();
  await signIn(ada, 'Ada');
  await ada.getByRole('link', { name: 'Ada' }).click();
  await ada.getByRole('textbox', { name: 'Name of someone to invite' }).fill('Elsbeth');
  await ada.getByRole('button', { name: 'Invite' }).click();
  const link = (await ada.locator('code').textContent()) ?? '';
  provider.visitor = { sub: '18', name: 'E. of the society' };
  const elsbeth = await (await browser.newContext()).newPage();
  await elsbeth.goto(application.address);
  await elsbeth.getByRole('link', { name: 'sign in with the society' }).click();
  await expect(elsbeth.getByRole('alert')).toContainText('nobody has invited you');
  await elsbeth.goto(link);
  await elsbeth.getByRole('link', { name: 'sign in with the society' }).click();
  await expect(elsbeth.getByRole('heading', { name: 'Jobs' })).toBeVisible();
  await expect(elsbeth.getByText('Elsbeth')).toBeVisible();
});
