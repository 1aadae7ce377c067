import { readFile } from 'node:fs/promises';
import { LAMP_KINDS } from '@fennip/core/lamp';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { onBenchServer } from './benchServer.ts';
import { CHROMIUM, FRAME, prepare } from './opening.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

const PREVIEWS = 8;
/** What comes this long after a key belongs to it, in milliseconds; tiles that take a preview's place come later. */
const PREVIEW_MS = 560;

/**
 * Runs in the page: presses a key in the field that has the focus and watches 24 lines across the table. Tells when the
 * first of them looked otherwise, and when the last did. As text, so that no build tool touches it.
 */
const PRESS_AND_WATCH = (key: string): string => `(async () => {
  const canvas = document.querySelector('[data-testid=table] canvas');
  const context = canvas.getContext('2d');
  const lines = () => Array.from({ length: 24 }, (_, k) => {
    const { data } = context.getImageData(0, Math.floor(((k + 0.5) * canvas.height) / 24), canvas.width, 1);
    return data.reduce((sum, value) => (sum * 31 + value) | 0, 0);
  });
  let seen = lines();
  let [first, last] = [0, 0];
  const start = performance.now();
  document.activeElement.dispatchEvent(
    new KeyboardEvent('keydown', { key: '${key}', bubbles: true, cancelable: true }));
  while (performance.now() - start < ${PREVIEW_MS}) {
    await new Promise((resolve) => requestAnimationFrame(resolve));
    const now = lines();
    if (now.every((line, k) => line === seen[k])) continue;
    last = performance.now() - start;
    first = first || last;
    seen = now;
  }
  return [first, last];
})()`;

/** From a key in a field to the treatment that is seen, in milliseconds: the first of it, and all of it. */
async function preview(page: Page, field: string): Promise<[number, number]> {
  await page.locator('.proof').getByLabel(field).first().focus();
  const times: [number, number][] = [];
  for (let i = 0; i < PREVIEWS; i++) {
    times.push(await page.evaluate<[number, number]>(PRESS_AND_WATCH(i % 2 === 0 ? 'ArrowUp' : 'ArrowDown')));
    await page.waitForTimeout(1500);
  }
  return [median(times.map(([first]) => first)), median(times.map(([, last]) => last))];
}

const TREATMENTS = [
  { name: 'Sift', field: 'How far a pixel must stand out', seen: 'sift, another threshold' },
  { name: 'Sift', field: 'Radius of the largest speck to take', seen: 'sift, another radius' },
  { name: 'Soften', field: 'Direction in degrees', seen: 'soften, another direction' },
  { name: 'Tone', field: 'How much of the treatment shows', seen: 'tone, another share' },
] as const;

/** How often each lamp is turned to. */
const TURNS = 4;

/** From the key that turns the lamps over to all that is in sight under the next one, in milliseconds, for each lamp. */
async function turnLamps(page: Page): Promise<Map<string, number>> {
  const times = new Map<string, number[]>(LAMP_KINDS.map((kind) => [kind, []]));
  await page.locator('body').focus();
  // The first turn measures the grain for its lamp, and is not counted.
  for (let turn = 1; turn <= (1 + TURNS) * LAMP_KINDS.length; turn++) {
    const [, all] = await page.evaluate<[number, number]>(PRESS_AND_WATCH('c'));
    if (turn > LAMP_KINDS.length) times.get(LAMP_KINDS[turn % LAMP_KINDS.length])?.push(all);
    await page.waitForTimeout(900);
  }
  return new Map([...times].map(([kind, all]) => [kind, median(all)]));
}

/** How soon a lamp is seen on a 24-megapixel frame, and a treatment of all of it as one of its numbers sets it. */
export const benchTreating = (): Promise<void> =>
  onBenchServer(async (address) => {
    const { job, picture } = await prepare(address, 'frame', new Uint8Array(await readFile(FRAME)));
    const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    const rows: Row[] = [];
    for (const where of ['the whole picture', '1:1'])
      for (const { name, field, seen } of TREATMENTS) {
        await page.goto(`${address}/jobs/${job.id}/pictures/${picture.id}/mend`);
        await page.waitForTimeout(1500);
        await page.getByTestId('treat').click();
        await page
          .getByRole('menuitem', { name: new RegExp(name) })
          .first()
          .click();
        await page.getByTestId('treat-all').click();
        if (where === '1:1') await page.getByRole('button', { name: '1:1' }).click();
        await page.waitForTimeout(4000);
        const [first, all] = await preview(page, field);
        rows.push([`first of ${seen}, ${where}, to 150 ms`, first, 150, first / 150]);
        rows.push([`all in sight of ${seen}, ${where}, to 150 ms`, all, 150, all / 150]);
        await page.keyboard.press('Escape');
        await page.getByRole('button', { name: 'Take away' }).first().click();
        await page.getByText('saving', { exact: true }).waitFor({ state: 'hidden' });
      }
    const lamps: Row[] = [];
    await page.goto(`${address}/jobs/${job.id}/pictures/${picture.id}/mend`);
    await page.waitForTimeout(3000);
    for (const where of ['the whole picture', '1:1']) {
      if (where === '1:1') await page.getByRole('button', { name: '1:1' }).click();
      await page.waitForTimeout(2000);
      for (const [kind, time] of await turnLamps(page))
        lamps.push([`lamp ${kind}, ${where}, to 100 ms`, time, 100, time / 100]);
    }
    printTable('Lamps in headless Chromium, 24 megapixels', ['what', 'ms', 'wanted ms', 'ratio'], lamps);
    printTable('Treatments in headless Chromium, 24 megapixels', ['what', 'ms', 'wanted ms', 'ratio'], rows);
    await browser.close();
  });
