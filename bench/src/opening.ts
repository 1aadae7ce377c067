import { mkdtemp, readFile, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { readConfig, startServer } from '@fennip/server';
import pg from 'pg';
import pino from 'pino';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

const FRAME = join(
  fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url)),
  'viaduct-line-shoot-3.jpg',
);
const CHROMIUM = [
  '--headless',
  '--no-sandbox',
  '--disable-gpu',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
];

interface Named {
  readonly id: string;
}

/** A server of its own, with the 24-megapixel frame stored and examined. */
async function prepare(address: string): Promise<{ job: Named; picture: Named }> {
  const post = async <T>(path: string, body: BodyInit, type = 'application/json'): Promise<T> =>
    (await (
      await fetch(`${address}/api${path}`, { method: 'POST', headers: { 'content-type': type }, body })
    ).json()) as T;
  const job = await post<Named>('/jobs', JSON.stringify({ name: 'Bench' }));
  const bytes = new Uint8Array(await readFile(FRAME));
  const picture = await post<Named>(
    `/jobs/${job.id}/pictures?name=frame.jpg`,
    bytes,
    'application/octet-stream',
  );
  const until = async (is: (p: { state: string; examined: string }) => boolean): Promise<void> => {
    for (;;) {
      const answer = await fetch(`${address}/api/pictures/${picture.id}`);
      const sheet = (await answer.json()) as { picture: { state: string; examined: string } };
      if (is(sheet.picture)) return;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  };
  await until(({ state }) => state === 'ready');
  await post(
    `/pictures/${picture.id}/examination`,
    JSON.stringify({ sensitivity: 0.5, polarities: ['dark'] }),
  );
  await until(({ examined }) => examined === 'done');
  return { job, picture };
}

/** From asking for the address to the picture's pixels on the canvas, in milliseconds. */
async function firstView(page: Page, url: string): Promise<number> {
  const start = performance.now();
  await page.goto(url, { waitUntil: 'commit' });
  await page.waitForFunction(
    () => {
      const canvas = document.querySelector<HTMLCanvasElement>('[data-testid=table] canvas');
      if (!canvas || canvas.width < 100) return false;
      const middle = canvas.getContext('2d')?.getImageData(canvas.width >> 1, canvas.height >> 1, 1, 1).data;
      return middle !== undefined && middle[3] > 0;
    },
    null,
    { polling: 'raf' },
  );
  return performance.now() - start;
}

/** Runs in the page: presses the button that mends and waits for other pixels in the middle. As text, so that no build tool touches it. */
const PRESS_AND_WATCH = `(async () => {
  const canvas = document.querySelector('[data-testid=table] canvas');
  const context = canvas.getContext('2d');
  const [x, y] = [canvas.width >> 1, canvas.height >> 1];
  const sum = () => context.getImageData(x - 3, y - 3, 6, 6).data.reduce((total, v) => total + v, 0);
  const before = sum();
  const start = performance.now();
  document.querySelector('[data-testid=mend-chosen]').click();
  while (sum() === before && performance.now() - start < 2000)
    await new Promise((resolve) => requestAnimationFrame(resolve));
  return performance.now() - start;
})()`;

/** From a key that mends the chosen fault to changed pixels in the middle of the table, in milliseconds. */
async function clicksToPixels(page: Page, count: number): Promise<number[]> {
  const times: number[] = [];
  for (let i = 0; i < count; i++) {
    await page.locator('[data-entry]').nth(i).click();
    await page.waitForTimeout(500);
    times.push(await page.evaluate<number>(PRESS_AND_WATCH));
  }
  return times;
}

/** How soon a stored picture is seen, and how soon a mend is. */
export async function benchOpening(): Promise<void> {
  const adminUrl = process.env['FENNIP_DATABASE_URL'] ?? '';
  const admin = new pg.Client({ connectionString: adminUrl });
  await admin.connect();
  await admin.query('drop database if exists fennip_bench with (force)');
  await admin.query('create database fennip_bench');
  const url = new URL(adminUrl);
  url.pathname = 'fennip_bench';
  const store = await mkdtemp(join(tmpdir(), 'fennip-bench-'));
  const env = { FENNIP_DATABASE_URL: url.href, FENNIP_STORE: store };
  const server = await startServer({ ...readConfig(env), port: 0 }, pino({ level: 'fatal' }));
  const { job, picture } = await prepare(server.address);
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  const address = `${server.address}/jobs/${job.id}/pictures/${picture.id}/mend`;
  await firstView(page, address);
  const views: number[] = [];
  for (let i = 0; i < 5; i++) views.push(await firstView(page, address));
  await page.waitForTimeout(1000);
  const clicks = (await clicksToPixels(page, 20)).sort((a, b) => a - b);
  const rows: Row[] = [
    ['first view of a stored 24-megapixel picture, to 1 s', median(views), 1000, median(views) / 1000],
    ['a command on a fault to mended pixels, 95 %, to 80 ms', clicks[18], 80, clicks[18] / 80],
  ];
  printTable('In headless Chromium', ['what', 'ms', 'wanted ms', 'ratio'], rows);
  await browser.close();
  await server.stop();
  await admin.query('drop database fennip_bench with (force)');
  await admin.end();
  await rm(store, { recursive: true });
}
