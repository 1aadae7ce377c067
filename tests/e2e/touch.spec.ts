import type { CDPSession, Page } from '@playwright/test';
import { deskOf, openForMending } from './desk.ts';
import { expect, test } from './fixtures.ts';
import { speckedPhotograph } from './pictures.ts';

const SIZE = { width: 1024, height: 819 };
type Place = readonly [x: number, y: number];

/** Real touch events, as a screen gives them. */
async function touch(
  client: CDPSession,
  type: 'touchStart' | 'touchMove' | 'touchEnd',
  places: readonly Place[],
): Promise<void> {
  const touchPoints = places.map(([x, y], id) => ({ x, y, id }));
  await client.send('Input.dispatchTouchEvent', { type, touchPoints });
}

const mendCount = async (page: Page): Promise<number> => {
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  return page.evaluate(
    async (picture) =>
      ((await (await fetch(`/api/pictures/${picture}`)).json()) as { recipe: { mends: unknown[] } }).recipe
        .mends.length,
    id,
  );
};

test('one finger draws, two turn the table and cancel what was begun, a long press opens the menu', async ({
  quietPage: page,
}) => {
  const buffer = await speckedPhotograph('nagasaki-boats', [{ x: 512, y: 90, r: 12 }], 8);
  await openForMending(page, { job: 'Fingers', name: 'fingers.png', buffer });
  const desk = await deskOf(page, SIZE);
  const client = await page.context().newCDPSession(page);
  await page.getByRole('button', { name: 'Heal', exact: true }).click();

  // One finger draws a stroke.
  const line: Place[] = [300, 330, 360, 400].map((x) => desk.at(x, 420));
  await touch(client, 'touchStart', [line[0]]);
  for (const place of line.slice(1)) await touch(client, 'touchMove', [place]);
  await touch(client, 'touchEnd', []);
  await expect.poll(() => mendCount(page)).toBe(1);

  // A second finger cancels the stroke that the first began, and both zoom.
  const zoom = await page.getByTestId('zoom').innerText();
  await touch(client, 'touchStart', [desk.at(500, 400)]);
  await touch(client, 'touchMove', [desk.at(520, 400)]);
  await touch(client, 'touchStart', [desk.at(520, 400), desk.at(560, 440)]);
  for (let i = 1; i <= 5; i++)
    await touch(client, 'touchMove', [
      desk.at(520 - 20 * i, 400 - 20 * i),
      desk.at(560 + 20 * i, 440 + 20 * i),
    ]);
  await touch(client, 'touchEnd', []);
  await expect(page.getByTestId('zoom')).not.toHaveText(zoom);
  expect(await mendCount(page)).toBe(1);

  // A long press on a mark opens what can be done with it.
  await page.getByRole('button', { name: 'Whole' }).click();
  await page.getByRole('button', { name: 'Lay down' }).click();
  await touch(client, 'touchStart', [desk.at(512, 90)]);
  await expect(page.getByRole('menuitem', { name: 'Dismiss' })).toBeVisible();
  await touch(client, 'touchEnd', []);
  await page.getByRole('menuitem', { name: 'Dismiss' }).click();
  await expect(page.locator('[data-state=dismissed]')).toHaveCount(1);
});
