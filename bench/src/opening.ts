import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Browser, Page } from '@playwright/test';
import { chromium } from '@playwright/test';
import { onBenchServer } from './benchServer.ts';
import type { Row } from './report.ts';
import { median, printTable } from './report.ts';

export const FRAME = join(
  fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url)),
  'viaduct-line-shoot-3.jpg',
);
export const CHROMIUM = [
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

/** The frame laid beside its own mirror images, until it has more than a hundred megapixels. */
export async function largePicture(): Promise<Buffer> {
  const { default: sharp } = await import('sharp');
  const { width = 0, height = 0 } = await sharp(FRAME).metadata();
  const extended = {
    right: Math.round(1.05 * width),
    bottom: Math.round(1.05 * height),
    extendWith: 'mirror',
  } as const;
  return sharp(FRAME, { limitInputPixels: false }).extend(extended).jpeg({ quality: 92 }).toBuffer();
}

/**
 * How long the page takes for so many square roots, in milliseconds: what the machine gives at this hour. On a machine
 * that is shared the figures of two runs are moves apart by it.
 */
const paceOf = (page: Page): Promise<number> =>
  page.evaluate<number>(`(() => {
    const times = [];
    for (let k = 0; k < 5; k++) {
      const start = performance.now();
      let sum = 0;
      for (let i = 0; i < 2e7; i++) sum += Math.sqrt(i);
      times.push(performance.now() - start + 0 * sum);
    }
    return times.sort((a, b) => a - b)[2];
  })()`);

/** A server of its own, with a picture stored and examined. */
export async function prepare(
  address: string,
  name: string,
  bytes: Uint8Array<ArrayBuffer>,
): Promise<{ job: Named; picture: Named }> {
  const post = async <T>(path: string, body: BodyInit, type = 'application/json'): Promise<T> =>
    (await (
      await fetch(`${address}/api${path}`, {
        method: 'POST',
        headers: { 'content-type': type, 'x-requested-by': 'bench' },
        body,
      })
    ).json()) as T;
  const job = await post<Named>('/jobs', JSON.stringify({ name }));
  const picture = await post<Named>(
    `/jobs/${job.id}/pictures?name=${name}.jpg`,
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
    // Hundreds are listed: a round of a hundred needs so many.
    JSON.stringify({ sensitivity: 1, polarities: ['dark', 'bright'] }),
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
      // A canvas that nobody has drawn on is 300 pixels wide.
      if (!canvas || canvas.width === 300) return false;
      const seen = canvas.getContext('2d')?.getImageData(canvas.width >> 1, canvas.height >> 1, 64, 1).data;
      // What lies around the picture is of one colour.
      return seen?.some((value, i) => value !== seen[i % 4]);
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

/** A hundred decisions of a round by key, each as soon as the next fault is chosen, in milliseconds. */
async function hundredDecisions(page: Page): Promise<number> {
  await page.getByTestId('round').click();
  const line = page.locator('[data-entry][aria-pressed=true]');
  const start = performance.now();
  for (let i = 0; i < 100; i++) {
    const before = await line.getAttribute('data-entry');
    await page.keyboard.press('Enter');
    await page.waitForFunction(
      (last) =>
        document.querySelector('[data-entry][aria-pressed=true]')?.getAttribute('data-entry') !== last,
      before,
      { polling: 'raf' },
    );
  }
  await page.getByText('saving', { exact: true }).waitFor({ state: 'hidden' });
  const time = performance.now() - start;
  await page.getByRole('button', { name: 'Leave' }).click();
  return time;
}

/** Counts what holds the page's main thread up. As text, so that no build tool touches it. */
const WATCH_TASKS = `(() => {
  window.longTasks = [];
  new PerformanceObserver((list) => {
    for (const entry of list.getEntries()) window.longTasks.push(entry.duration);
  }).observe({ entryTypes: ['longtask'] });
})()`;

/** The longest time the main thread was held up since the last call, in milliseconds; tasks below 50 are not moves. */
const longestTask = (page: Page): Promise<number> =>
  page.evaluate<number>(`(() => {
    const longest = Math.max(0, ...window.longTasks);
    window.longTasks = [];
    return longest;
  })()`);

/** Measures, for each move of the pen, how long it takes until the frame after it is drawn, and when that was. */
const WATCH_PEN = `(() => {
  window.penDelays = [];
  const drawn = document.querySelector('[data-testid=table]') ?? document.querySelector('canvas');
  drawn.addEventListener('pointermove', (event) => {
    requestAnimationFrame(() => {
      window.penAt = [event.clientX, event.clientY];
      window.penDelays.push(performance.now() - event.timeStamp);
    });
  });
})()`;

const PLACES = 180;

/**
 * Moves what is held down for three seconds, at 60 places a second. As a pen does, the next place is moves when its time
 * has come, drawn or not drawn the one before.
 *
 * @returns seconds from the first place until the last is drawn
 */
async function movePen(page: Page, left: number, top: number): Promise<number> {
  const placeOf = (i: number): [number, number] => [left + 3.5 * i, top + 60 * Math.sin(i / 9)];
  const start = performance.now();
  const moves: Promise<void>[] = [];
  for (let i = 0; i < PLACES; i++) {
    moves.push(page.mouse.move(...placeOf(i)));
    const early = start + ((i + 1) * 1000) / 60 - performance.now();
    if (early > 0) await new Promise((resolve) => setTimeout(resolve, early));
  }
  await Promise.all(moves);
  const [x] = placeOf(PLACES - 1);
  await page.waitForFunction((last) => Reflect.get(window, 'penAt')[0] >= last, Math.floor(x), {
    polling: 'raf',
  });
  return (performance.now() - start) / 1000;
}

/** The same strokes where nothing but a line is drawn: what the browser and the machine need for them. */
async function penOnEmptyPage(page: Page): Promise<number> {
  await page.setContent('<canvas width="1280" height="800"></canvas>');
  await page.evaluate(`(() => {
    const context = document.querySelector('canvas').getContext('2d');
    addEventListener('pointermove', ({ offsetX, offsetY }) => requestAnimationFrame(() => {
      context.lineTo(offsetX, offsetY);
      context.stroke();
    }));
  })()`);
  await page.evaluate(WATCH_PEN);
  return movePen(page, 150, 250);
}

interface Drawn {
  /** From a move of the pen to the frame that shows it, in milliseconds: at most so many in 95 of 100. */
  readonly late: number;
  readonly seconds: number;
}

/** Draws with a set source. */
async function drawStroke(page: Page): Promise<Drawn> {
  const box = await page.getByTestId('table').boundingBox();
  if (!box) throw new Error('there is no table');
  await page.keyboard.press('r');
  await page.keyboard.down('a');
  await page.mouse.click(box.x + 300, box.y + 400);
  await page.keyboard.up('a');
  await page.evaluate(WATCH_PEN);
  await page.mouse.move(box.x + 150, box.y + 250);
  await page.mouse.down();
  const seconds = await movePen(page, box.x + 150, box.y + 250);
  await page.mouse.up();
  await page.waitForTimeout(1500);
  await page.keyboard.press('Escape');
  const delays = await page.evaluate<number[]>('window.penDelays');
  return { late: delays.sort((a, b) => a - b)[Math.floor(0.95 * delays.length)], seconds };
}

/** What all processes of the browser hold for themselves, in megabytes (proportional set size). */
async function browserMemory(browser: Browser): Promise<number> {
  const session = await browser.newBrowserCDPSession();
  const { processInfo } = await session.send('SystemInfo.getProcessInfo');
  await session.detach();
  const sizes = await Promise.all(
    processInfo.map(async ({ id }) => {
      const rollup = await readFile(`/proc/${id}/smaps_rollup`, 'utf8').catch(() => '');
      return Number(/^Pss:\s+(\d+)/m.exec(rollup)?.[1] ?? 0) / 1024;
    }),
  );
  return sizes.reduce((sum, size) => sum + size, 0);
}

/** Walks over the whole of a large picture at 1:1, so that every tile has been in sight. */
async function walkOver(page: Page): Promise<void> {
  const overview = page.getByTestId('overview');
  const box = await overview.boundingBox();
  if (!box) throw new Error('there is no overview');
  for (let row = 0; row < 8; row++)
    for (let column = 0; column < 8; column++) {
      await page.mouse.click(
        box.x + ((column + 0.5) / 8) * box.width,
        box.y + ((row + 0.5) / 8) * box.height,
      );
      await page.waitForTimeout(120);
    }
}

/** How soon a stored picture is seen, how soon a mend is, and how a large one is drawn on. */
export const benchOpening = (): Promise<void> =>
  onBenchServer(async (address) => {
    const addressOf = ({ job, picture }: { job: Named; picture: Named }): string =>
      `${address}/jobs/${job.id}/pictures/${picture.id}/mend`;
    const frame = addressOf(await prepare(address, 'frame', new Uint8Array(await readFile(FRAME))));
    const large = addressOf(await prepare(address, 'large', new Uint8Array(await largePicture())));
    const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: CHROMIUM });
    const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
    await firstView(page, frame);
    const views = { frame: [] as number[], large: [] as number[] };
    for (let i = 0; i < 5; i++) {
      views.frame.push(await firstView(page, frame));
      views.large.push(await firstView(page, large));
    }
    await page.goto(frame);
    await page.waitForTimeout(1500);
    await page.evaluate(WATCH_TASKS);
    const clicks = (await clicksToPixels(page, 20)).sort((a, b) => a - b);
    const heldByMends = await longestTask(page);
    const decisions = await hundredDecisions(page);
    await page.goto(large);
    await page.waitForTimeout(1500);
    await page.evaluate(WATCH_TASKS);
    // Seen whole, every mark is in sight.
    const whole = await drawStroke(page);
    await page.keyboard.press('f');
    await page.waitForTimeout(1500);
    const close = await drawStroke(page);
    const heldByStrokes = await longestTask(page);
    await walkOver(page);
    const memory = await browserMemory(browser);
    const marks = await page.locator('[data-testid=table] .for-readers-only').textContent();
    const empty = await penOnEmptyPage(page);
    const pace = await paceOf(page);
    const [first, ofLarge] = [median(views.frame), median(views.large)];
    const rows: Row[] = [
      ['first view of a stored 24-megapixel picture, to 1 s', first, 1000, first / 1000],
      ['first view of 100 megapixels, to that of 24', ofLarge, first, ofLarge / first],
      ['a command on a fault to mended pixels, 95 %, to 80 ms', clicks[18], 80, clicks[18] / 80],
      ['main thread held up while mending, to 50 ms', heldByMends, 50, heldByMends / 50],
      ['a hundred decisions of a round, to 100 s', decisions, 100_000, decisions / 100_000],
      ['100 megapixels at 1:1: pen to the next frame, 95 %, to two frames', close.late, 33, close.late / 33],
      [`the same seen whole: ${marks ?? ''}`, whole.late, 33, whole.late / 33],
      ...[close, whole].map(({ seconds }, i): Row => [
        `a stroke of ${PLACES} places ${['at 1:1', 'seen whole'][i]}, drawn, to the same on an empty page`,
        1000 * seconds,
        1000 * empty,
        seconds / empty,
      ]),
      ['main thread held up by the strokes, to 50 ms', heldByStrokes, 50, heldByStrokes / 50],
    ];
    printTable('In headless Chromium', ['what', 'ms', 'wanted ms', 'ratio'], rows);
    printTable(
      'Memory',
      ['what', 'MB'],
      [['all of the browser, after all of 100 megapixels was in sight at 1:1', Math.round(memory)]],
    );
    printTable(
      'What the machine gives',
      ['what', 'ms'],
      [['twenty million square roots in the page', Math.round(pace)]],
    );
    await browser.close();
  });
