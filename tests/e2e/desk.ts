import type { Locator, Page } from '@playwright/test';
import { addFiles, expect, makeJob } from './fixtures.ts';

/** The table of an open picture, with a way from the picture's pixels to the screen's. */
export interface Desk {
  readonly table: Locator;
  /** Where a pixel of the picture lies in the window, while the whole picture is shown. */
  at(x: number, y: number): [number, number];
  /** Screen pixels to one of the picture, while the whole picture is shown. */
  readonly scale: number;
}

/** Goes to a stage of the open picture, and waits until its bars stand instead of those of the stage before. */
export async function toStage(page: Page, stage: 'Examine' | 'Mend' | 'Finish'): Promise<void> {
  const link = page.getByRole('link', { name: stage, exact: true });
  await link.click();
  await expect(link).toHaveAttribute('aria-current', 'step');
  // Its bar makes the table of this stage alone lower.
  await expect(page.getByTestId('examine')).toBeVisible({ visible: stage === 'Examine' });
}

/** Brings a picture through intake and examination and opens it for mending. */
export async function openForMending(
  page: Page,
  { job, name, buffer }: { job: string; name: string; buffer: Buffer },
): Promise<void> {
  await makeJob(page, job);
  await addFiles(page, [{ name, buffer }]);
  await expect(page.getByText('Not examined')).toBeVisible();
  await page.locator(`[data-picture="${name}"]`).click();
  await page.getByText('Dark', { exact: true }).click();
  await page.getByTestId('examine').click();
  await expect(page.locator('[data-entry]').first()).toBeVisible();
  await toStage(page, 'Mend');
}

type Box = NonNullable<Awaited<ReturnType<Locator['boundingBox']>>>;

/** Where something stands once it stays there: parts around it may still be mounted or taken away. */
async function settledBox(page: Page, of: Locator): Promise<Box> {
  for (let last = ''; ;) {
    const box = await of.boundingBox();
    if (!box) throw new Error('it is not there');
    const now = JSON.stringify(box);
    if (now === last) return box;
    last = now;
    await page.waitForTimeout(60);
  }
}

/** @param size of the picture; the margin left around a whole picture is the table's own */
export async function deskOf(page: Page, size: { width: number; height: number }): Promise<Desk> {
  const table = page.getByTestId('table');
  const box = await settledBox(page, table);
  const scale = Math.min((box.width - 48) / size.width, (box.height - 48) / size.height);
  return {
    table,
    scale,
    at: (x, y) => [
      box.x + box.width / 2 + (x - size.width / 2) * scale,
      box.y + box.height / 2 + (y - size.height / 2) * scale,
    ],
  };
}

/** Drags the pressed pointer through places of the window. */
export async function drag(page: Page, places: readonly (readonly [number, number])[]): Promise<void> {
  const [first, ...others] = places;
  await page.mouse.move(...first);
  await page.mouse.down();
  for (const place of others) await page.mouse.move(...place, { steps: 4 });
  await page.mouse.up();
}

export interface Recipe {
  readonly mends: readonly Record<string, unknown>[];
}

/** What the server has of the open picture. */
export async function saved(
  page: Page,
): Promise<{ recipe: Recipe; done: { words: string }[]; undone: { words: string }[] }> {
  await expect(page.getByText('saving', { exact: true })).toBeHidden();
  const id = /pictures\/([^/]+)/.exec(page.url())?.[1] ?? '';
  return page.evaluate(async (picture) => (await fetch(`/api/pictures/${picture}`)).json(), id);
}
