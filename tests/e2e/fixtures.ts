import type { Page } from '@playwright/test';
import { test as base, expect } from '@playwright/test';
import type { Application } from './application.ts';
import { startApplication } from './application.ts';

/** A page that must stay without complaint, on an application of its own. */
export const test = base.extend<
  { quietPage: Page },
  { application: Application; database: 'shared' | 'own' }
>({
  /** A test that stops the database has one of its own. */
  database: ['shared', { option: true, scope: 'worker' }],
  application: [
    async ({ database }, use) => {
      const application = await startApplication({ database });
      await use(application);
      await application.close();
    },
    { scope: 'worker', timeout: 240_000 },
  ],
  quietPage: async ({ page, application }, use) => {
    const complaints: string[] = [];
    page.on('console', (message) => {
      // A refused file (4xx) and a database or server that is away (503) Chromium reports by itself.
      const isRefusal = /status of (4\d\d|503)|ERR_CONNECTION_REFUSED/.test(message.text());
      if (message.type() === 'error' && !isRefusal) complaints.push(message.text());
    });
    page.on('pageerror', (error) => complaints.push(error.message));
    await page.goto(application.address);
    await use(page);
    expect(complaints).toEqual([]);
  },
});

export { expect };

/** Makes a job through the page. */
export async function makeJob(page: Page, name: string): Promise<void> {
  await page.getByLabel('Name of a new job').fill(name);
  await page.getByRole('button', { name: 'Make job' }).click();
  await expect(page.getByText('No pictures in this job yet.')).toBeVisible();
}

/** Adds files through the page's own dialog. */
export async function addFiles(page: Page, files: { name: string; buffer: Buffer }[]): Promise<void> {
  const [chooser] = await Promise.all([
    page.waitForEvent('filechooser'),
    page.getByText('Drop pictures here').click(),
  ]);
  await chooser.setFiles(files.map((file) => ({ ...file, mimeType: 'application/octet-stream' })));
}

/** The colour of the picture's canvas at a point of the table, red, green, blue. */
export function colourAt(page: Page, x: number, y: number): Promise<number[]> {
  return page.evaluate(
    ([px, py]) => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=table] canvas');
      const data = canvas?.getContext('2d')?.getImageData(Math.round(px), Math.round(py), 1, 1).data;
      return data ? [...data.slice(0, 3)] : [];
    },
    [x, y],
  );
}
