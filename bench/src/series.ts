import type { ChildProcess } from 'node:child_process';
import { spawn } from 'node:child_process';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { ChartFrame } from '@fennip/core/chart';
import type { Mend } from '@fennip/core/mend';
import type { Pixels } from '@fennip/core/raster';
import { chartDust } from '@fennip/core/bench';
import { placeOnSensor } from '@fennip/core/chart';
import { mulberry } from '@fennip/core/random';
import { cloneRaster, pixelsOf, viewRaster } from '@fennip/core/raster';
import { decodePicture } from '@fennip/files';
import { onBenchServer } from './benchServer.ts';
import { FRAME } from './opening.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

const PICTURES = fileURLToPath(new URL('../../packages/scenes/pictures', import.meta.url));
const RUN = fileURLToPath(new URL('../../packages/threads/bin/run.mjs', import.meta.url));
const WORKER = fileURLToPath(new URL('../../packages/server/src/main.ts', import.meta.url));
const frameName = (k: number): string => `viaduct-line-shoot-${(k % 8) + 1}.jpg`;

/** Frames of 24 megapixels in a run whose pace is measured. */
const PACED = 2;
/** Frames of the run whose worker is killed, and how often it is. */
const [DISTURBED, KILLS] = [20, 10];
/** Sides of a part of a frame where the frames themselves would take too long. */
const PART = { width: 1500, height: 1000 };
const CHARTED = [8, 32, 128];

interface Named {
  readonly id: string;
}

/** What is asked of a server. */
interface Desk {
  get<T>(path: string): Promise<T>;
  post<T>(path: string, body: unknown): Promise<T>;
  send<T>(path: string, bytes: Uint8Array<ArrayBuffer>): Promise<T>;
}

function deskOf(address: string): Desk {
  const answer = async <T>(asked: Promise<Response>): Promise<T> => {
    const response = await asked;
    if (!response.ok) throw new Error(`${response.status}: ${await response.text()}`);
    return (await response.json()) as T;
  };
  const post = <T>(path: string, body: BodyInit, type: string): Promise<T> =>
    answer<T>(
      fetch(`${address}/api${path}`, {
        method: 'POST',
        headers: { 'content-type': type, 'x-requested-by': 'bench' },
        body,
      }),
    );
  return {
    get: <T>(path: string) => answer<T>(fetch(`${address}/api${path}`)),
    post: <T>(path: string, body: unknown) => post<T>(path, JSON.stringify(body), 'application/json'),
    send: <T>(path: string, bytes: Uint8Array<ArrayBuffer>) =>
      post<T>(path, bytes, 'application/octet-stream'),
  };
}

const pause = (ms = 200): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

/** A job with these files in it, ready to be worked on. */
async function jobOf(
  desk: Desk,
  name: string,
  files: readonly Uint8Array<ArrayBuffer>[],
): Promise<{ job: string; pictures: string[] }> {
  const job = await desk.post<Named>('/jobs', { name });
  const pictures: string[] = [];
  for (const [k, bytes] of files.entries())
    pictures.push((await desk.send<Named>(`/jobs/${job.id}/pictures?name=${name}-${k}.jpg`, bytes)).id);
  const isReady = async (): Promise<boolean> =>
    (await desk.get<{ pictures: { state: string }[] }>(`/jobs/${job.id}`)).pictures.every(
      ({ state }) => state === 'ready',
    );
  while (!(await isReady())) await pause();
  return { job: job.id, pictures };
}

/** A worker beside the server. @param env where its database and store are */
const startWorker = (env: Readonly<Record<string, string>>): ChildProcess =>
  spawn(process.execPath, ['--expose-gc', RUN, WORKER, '--worker'], {
    env: { ...process.env, ...env },
    stdio: 'ignore',
  });

interface Run {
  readonly id: string;
  readonly state: string;
  readonly pieces: number;
  readonly done: number;
  readonly failed: number;
}

async function ended(desk: Desk, id: string): Promise<Run> {
  for (;;) {
    const run = await desk.get<Run>(`/runs/${id}`);
    if (run.state === 'done') return run;
    await pause();
  }
}

const MEND = { sure: 0.8, doubtful: 0.3 };
const series = (pictures: readonly string[], what: object): object => ({
  ...{ kind: 'series', pictures, examine: false, sensitivity: 0.5, chart: false, mend: null },
  ...what,
});

/** The one frame that is rendered in full size, and the same seen in a mirror. */
async function pacedFiles(): Promise<Uint8Array<ArrayBuffer>[]> {
  const { default: sharp } = await import('sharp');
  return Promise.all(
    Array.from({ length: PACED }, async (_, k) => {
      const frame = sharp(FRAME).withMetadata();
      return new Uint8Array(await (k % 2 ? frame.flop() : frame).jpeg({ quality: 92 }).toBuffer());
    }),
  );
}

/** Frames per minute of each stage, with one worker and with two. */
async function paces(): Promise<Row[]> {
  const rows: Row[] = [];
  const files = await pacedFiles();
  await onBenchServer(async (address, _, env) => {
    const desk = deskOf(address);
    const taken: number[][] = [];
    for (const count of [1, 2]) {
      const { job, pictures } = await jobOf(desk, `pace-${count}`, files);
      const workers = Array.from({ length: count }, () => startWorker(env));
      // They start and find their queues before anything is timed.
      await pause(6000);
      const times: number[] = [];
      for (const order of [
        series(pictures, { examine: true }),
        series(pictures, { mend: MEND }),
        {
          kind: 'delivery',
          pictures,
          pattern: '{name}',
          delivery: { format: 'jpeg', quality: 92, depth: 8 },
        },
      ]) {
        const start = performance.now();
        await ended(desk, (await desk.post<Run>(`/jobs/${job}/runs`, order)).id);
        times.push((60_000 * PACED) / (performance.now() - start));
      }
      for (const worker of workers) worker.kill('SIGTERM');
      taken.push(times);
    }
    ['examined', 'mended', 'delivered'].forEach((what, k) => {
      const [one, two] = [taken[0][k], taken[1][k]];
      rows.push([
        `frames of 24 megapixels ${what} a minute: one worker, two, two to one`,
        one,
        two,
        two / one,
      ]);
    });
  }, 'by-workers');
  return rows;
}

/** Parts of the frames as files, each another one. */
async function partFiles(count: number): Promise<Uint8Array<ArrayBuffer>[]> {
  const { default: sharp } = await import('sharp');
  return Promise.all(
    Array.from({ length: count }, async (_, k) => {
      const turn = Math.floor(k / 8);
      const bytes = await sharp(join(PICTURES, frameName(k)))
        .extract({ left: 100 + 650 * turn, top: 100 + 400 * turn, ...PART })
        .withMetadata()
        .jpeg({ quality: 95, chromaSubsampling: '4:4:4' })
        .toBuffer();
      return new Uint8Array(bytes);
    }),
  );
}

/** What a mend is, whoever made it. */
function likeness(mend: Mend): string {
  const { id, ...rest } = mend;
  void id;
  return JSON.stringify(rest);
}

async function mendsOf(desk: Desk, pictures: readonly string[]): Promise<string[][]> {
  const all: string[][] = [];
  for (const id of pictures) {
    const { recipe } = await desk.get<{ recipe: { mends: Mend[] } }>(`/pictures/${id}`);
    all.push(recipe.mends.map(likeness).sort());
  }
  return all;
}

/** A run of twenty frames whose worker is killed ten times, against the same run left in peace. */
async function kills(): Promise<Row[]> {
  const rows: Row[] = [];
  const files = await partFiles(DISTURBED);
  await onBenchServer(async (address, _, env) => {
    const desk = deskOf(address);
    const order = { examine: true, mend: { sure: 0.5, doubtful: 0.3 } };
    const peaceful = await jobOf(desk, 'peaceful', files);
    const steady = startWorker(env);
    await ended(
      desk,
      (await desk.post<Run>(`/jobs/${peaceful.job}/runs`, series(peaceful.pictures, order))).id,
    );
    steady.kill('SIGTERM');
    const disturbed = await jobOf(desk, 'disturbed', files);
    const { id } = await desk.post<Run>(`/jobs/${disturbed.job}/runs`, series(disturbed.pictures, order));
    const chance = mulberry(20);
    let killed = 0;
    while (killed < KILLS && (await desk.get<Run>(`/runs/${id}`)).state !== 'done') {
      const worker = startWorker(env);
      await pause(3000 + 6000 * chance());
      worker.kill('SIGKILL');
      killed++;
    }
    const last = startWorker(env);
    const run = await ended(desk, id);
    last.kill('SIGTERM');
    const [left, right] = [await mendsOf(desk, peaceful.pictures), await mendsOf(desk, disturbed.pictures)];
    const same = left.filter((mends, k) => mends.join() === right[k].join()).length;
    const count = (all: string[][]): number => all.reduce((sum, mends) => sum + mends.length, 0);
    rows.push(
      ['times that the worker was killed', killed],
      ['pieces of the run', run.pieces],
      ['of them done', run.done],
      ['of them failed', run.failed],
      ['mends of the run left in peace', count(left)],
      ['mends of the disturbed one', count(right)],
      [`frames of ${DISTURBED} with the very same mends`, same],
    );
  }, 'by-workers');
  return rows;
}

/** Seconds and memory of a dust chart of ever more frames. */
async function charts(): Promise<Row[]> {
  const frames = await Promise.all(
    Array.from({ length: 4 }, async (_, k) => (await decodePicture(join(PICTURES, frameName(k)))).raster),
  );
  const pixelsAt = (k: number): Pixels => {
    const turn = Math.floor(k / 4);
    const rect = { left: 37 * (turn % 32), top: 29 * (turn % 32), ...PART };
    return pixelsOf(cloneRaster(viewRaster(frames[k % 4], rect)));
  };
  const rows: Row[] = [];
  for (const count of CHARTED) {
    const shots: ChartFrame[] = Array.from({ length: count }, (_, k) => ({
      placement: placeOnSensor({ ...PART }, 1, PART),
      fNumber: [16, 11, 8, 5.6][k % 4],
      isReference: false,
    }));
    globalThis.gc?.();
    const held = process.memoryUsage().arrayBuffers;
    let most = 0;
    const start = performance.now();
    await chartDust(PART, shots, (k) => {
      globalThis.gc?.();
      most = Math.max(most, process.memoryUsage().arrayBuffers - held);
      return Promise.resolve(pixelsAt(k));
    });
    const seconds = (performance.now() - start) / 1000;
    rows.push([
      `chart of ${count} frames: seconds, for each frame, MB held at most`,
      seconds,
      seconds / count,
      most / 1e6,
    ]);
  }
  return rows;
}

/** How fast a shoot is worked through, and that a worker's death costs nothing. */
export async function benchSeries(): Promise<void> {
  printTable('A worker that dies', ['what', 'count'], await kills());
  printTable('Charts', ['what', 's', 's each', 'MB'], await charts());
  printTable('Pace of a run', ['what', 'one', 'two', 'ratio'], await paces());
}
