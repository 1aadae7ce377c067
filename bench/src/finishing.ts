import { execFile } from 'node:child_process';
import { readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { promisify } from 'node:util';
import type { Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { onBenchServer } from './benchServer.ts';
import { CHROMIUM, FRAME, largePicture, prepare } from './opening.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

const PREVIEWS = 8;

/**
 * Runs in the page: presses a key on the slider that has the focus and waits until ten of twelve places over the table
 * look otherwise. As text, so that no build tool touches it.
 */
const SLIDE_AND_WATCH = `(async () => {
  const canvas = document.querySelector('[data-testid=table] canvas');
  const context = canvas.getContext('2d');
  const places = [];
  for (let row = 1; row <= 3; row++)
    for (let column = 1; column <= 4; column++)
      places.push([Math.round((canvas.width * column) / 5), Math.round((canvas.height * row) / 4)]);
  const sums = () => places.map(([x, y]) =>
    context.getImageData(x - 20, y - 20, 40, 40).data.reduce((total, v, i) => total + (i % 4 === 3 ? 0 : v * (1 + (i % 7))), 0));
  const before = sums();
  const slider = document.activeElement;
  const start = performance.now();
  slider.dispatchEvent(new KeyboardEvent('keydown', { key: 'PageUp', code: 'PageUp', bubbles: true, cancelable: true }));
  for (;;) {
    await new Promise((resolve) => requestAnimationFrame(resolve));
    const now = sums();
    const time = performance.now() - start;
    if (now.filter((sum, i) => sum !== before[i]).length >= 10 || time > 4000) return time;
  }
})()`;

/** From a step on a slider to the picture that is seen, in milliseconds. */
async function preview(page: Page, step: string, slider: string): Promise<number> {
  await page.getByRole('button', { name: 'Reset all' }).click();
  await page.getByRole('button', { name: step, exact: true }).click();
  await page.waitForTimeout(2500);
  await page.getByRole('slider', { name: slider, exact: true }).focus();
  const times: number[] = [];
  for (let i = 0; i < PREVIEWS; i++) {
    times.push(await page.evaluate<number>(SLIDE_AND_WATCH));
    await page.waitForTimeout(900);
  }
  return median(times);
}

async function previews(address: string): Promise<Row[]> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM });
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(address);
  await page.getByRole('button', { name: 'Levels', exact: true }).click();
  await page.waitForTimeout(3000);
  const rows: Row[] = [];
  const add = async (step: string, slider: string, where: string): Promise<void> => {
    const time = await preview(page, step, slider);
    rows.push([`preview of ${step.toLowerCase()}, ${where}, to 100 ms`, time, 100, time / 100]);
  };
  for (const [step, slider] of [
    ['Levels', 'Black'],
    ['Colour', 'Warmth'],
    ['Local contrast', 'Amount'],
  ])
    await add(step, slider, 'the whole picture');
  await page.getByRole('button', { name: '1:1' }).click();
  await page.waitForTimeout(1500);
  for (const [step, slider] of [
    ['Levels', 'Black'],
    ['Local contrast', 'Amount'],
    ['Sharpen', 'Amount'],
    ['Soften', 'Radius'],
  ])
    await add(step, slider, '1:1');
  await browser.close();
  return rows;
}

interface Delivered {
  /** Milliseconds. */
  readonly own: number;
  readonly peer: number;
  /** Bytes that the process held at most, and before it began. */
  readonly peak: number;
  readonly idle: number;
  readonly raw: number;
}

const RUN = fileURLToPath(new URL('../../packages/threads/bin/run.mjs', import.meta.url));

/** A delivery in a process of its own, so that its memory can be measured. */
async function delivery(path: string): Promise<Delivered> {
  const script = fileURLToPath(new URL('./deliverOnce.ts', import.meta.url));
  const { stdout } = await promisify(execFile)(process.execPath, ['--expose-gc', RUN, script, path], {
    maxBuffer: 1e6,
  });
  return JSON.parse(stdout) as Delivered;
}

/** A job of twenty frames through the server, in seconds. */
async function twentyFrames(address: string, bytes: Uint8Array<ArrayBuffer>): Promise<number> {
  const send = async <T>(path: string, body: BodyInit, type = 'application/json'): Promise<T> =>
    (await (
      await fetch(`${address}/api${path}`, {
        method: 'POST',
        headers: { 'content-type': type, 'x-requested-by': 'bench' },
        body,
      })
    ).json()) as T;
  const job = await send<{ id: string }>('/jobs', JSON.stringify({ name: 'twenty' }));
  const ids: string[] = [];
  for (let k = 0; k < 20; k++) {
    const { id } = await send<{ id: string }>(
      `/jobs/${job.id}/pictures?name=${k}.jpg`,
      bytes,
      'application/octet-stream',
    );
    ids.push(id);
  }
  const get = async <T>(path: string): Promise<T> =>
    (await (await fetch(`${address}/api${path}`)).json()) as T;
  const pause = (): Promise<void> => new Promise((resolve) => setTimeout(resolve, 200));
  while (
    (await get<{ pictures: { state: string }[] }>(`/jobs/${job.id}`)).pictures.some(
      ({ state }) => state !== 'ready',
    )
  )
    await pause();
  const start = performance.now();
  const run = await send<{ id: string }>(
    `/jobs/${job.id}/runs`,
    JSON.stringify({
      ...{ kind: 'delivery', pictures: ids, pattern: '{name}' },
      delivery: { format: 'jpeg', quality: 92, depth: 8 },
    }),
  );
  for (;;) {
    const runs = await get<{ id: string; state: string }[]>(`/jobs/${job.id}/runs`);
    if (runs.some(({ id, state }) => id === run.id && state === 'done')) break;
    await pause();
  }
  return (performance.now() - start) / 1000;
}

/** How soon a finish is seen, and what a delivery of one takes. */
export const benchFinishing = (): Promise<void> =>
  onBenchServer(async (address, folder) => {
    const bytes = new Uint8Array(await readFile(FRAME));
    const { job, picture } = await prepare(address, 'frame', bytes);
    const rows = await previews(`${address}/jobs/${job.id}/pictures/${picture.id}/finish`);
    printTable('Finish in headless Chromium, 24 megapixels', ['what', 'ms', 'wanted ms', 'ratio'], rows);
    const twenty = await twentyFrames(address, bytes);
    const large = join(folder, 'large.jpg');
    await writeFile(large, await largePicture());
    const deliveries: Row[] = [];
    const memory: Row[] = [];
    for (const [name, path] of [
      ['24 megapixels', FRAME],
      ['100 megapixels', large],
    ]) {
      const { own, peer, peak, idle, raw } = await delivery(path);
      const what = `deliver ${name}, levels, sharpened and straightened, to decode and encode`;
      deliveries.push([what, own, peer, own / peer]);
      memory.push([
        `peak of ${name}, to 3.5 of the raw picture`,
        Math.round((peak - idle) / 1e6),
        Math.round((3.5 * raw) / 1e6),
        (peak - idle) / raw,
      ]);
    }
    printTable('Delivery with a finish', ['what', 'own ms', 'peer ms', 'ratio'], deliveries);
    printTable('Memory of a delivery', ['what', 'MB', 'wanted MB', 'of the raw picture'], memory);
    const handed: Row = ['twenty frames of 24 megapixels handed over as JPEG', Math.round(twenty)];
    printTable('A job', ['what', 's'], [handed]);
  });
