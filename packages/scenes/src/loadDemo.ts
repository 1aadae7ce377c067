import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { EXAMINE_DEFAULTS } from '@fennip/core/examine';
import {
  DEMO_JOB,
  DEMO_PICTURES,
  PICTURES_FOLDER,
  SERIES_FILES,
  SERIES_JOB,
  TORN_FILES,
  TORN_JOB,
} from './demo.ts';

interface Named {
  readonly id: string;
  readonly name: string;
}

interface Watched extends Named {
  readonly state: string;
  readonly examined: string;
}

/** Loads the demo through the server's own front door, so that it is what a restorer's own pictures would be. */
const api = `${process.argv[2]}/api`;

async function ask<T>(path: string, init?: RequestInit): Promise<T> {
  const answer = await fetch(`${api}${path}`, init);
  if (!answer.ok) throw new Error(`${path}: ${answer.status} ${await answer.text()}`);
  return (await answer.json()) as T;
}

const send = <T>(path: string, body: unknown): Promise<T> =>
  ask<T>(path, {
    method: 'POST',
    headers: { 'content-type': 'application/json', 'x-requested-by': 'demo' },
    body: JSON.stringify(body),
  });

/** The job of a name, made where there is none, with these files in it. */
async function jobWith(name: string, files: readonly string[]): Promise<Named> {
  const jobs = await ask<Named[]>('/jobs');
  const job = jobs.find((known) => known.name === name) ?? (await send<Named>('/jobs', { name }));
  const present = await picturesOf(job);
  for (const file of files) {
    if (present.some((picture) => picture.name === file)) continue;
    console.log(`Loading ${file}`);
    const body = await readFile(join(PICTURES_FOLDER, file));
    await ask(`/jobs/${job.id}/pictures?name=${encodeURIComponent(file)}`, {
      method: 'POST',
      headers: { 'content-type': 'application/octet-stream', 'x-requested-by': 'demo' },
      body: new Uint8Array(body),
    });
  }
  return job;
}

const picturesOf = async (job: Named): Promise<Watched[]> =>
  (await ask<{ pictures: Watched[] }>(`/jobs/${job.id}`)).pictures;

/** Waits until all pictures of a job are as they should be; gives up after a few minutes. */
async function waitFor(job: Named, isDone: (picture: Watched) => boolean): Promise<void> {
  for (let i = 0; i < 900; i++) {
    if ((await picturesOf(job)).every(isDone)) return;
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error('the demo is taking too long');
}

const series = await jobWith(SERIES_JOB, SERIES_FILES);
const torn = await jobWith(TORN_JOB, TORN_FILES);
const job = await jobWith(
  DEMO_JOB,
  DEMO_PICTURES.map(({ file }) => file),
);
await waitFor(job, ({ state }) => state !== 'preparing');
for (const picture of await picturesOf(job)) {
  const demo = DEMO_PICTURES.find(({ file }) => file === picture.name);
  if (picture.examined !== 'none' || picture.state !== 'ready' || !demo) continue;
  console.log(`Examining ${picture.name}`);
  const { polarities } = demo;
  const { sensitivity } = EXAMINE_DEFAULTS;
  await send(`/pictures/${picture.id}/examination`, { sensitivity, polarities });
}
await waitFor(job, ({ examined }) => examined === 'none' || examined === 'done' || examined === 'failed');
await waitFor(series, ({ state }) => state !== 'preparing');
await waitFor(torn, ({ state }) => state !== 'preparing');
