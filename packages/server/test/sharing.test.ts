import type { EditAnswer, Job, JobAccess, Picture, PictureSheet, Present, Run } from '@fennip/contract';
import type { Raster } from '@fennip/core/raster';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { browser, startPeopledServer } from './browser.ts';
import type { TestServer } from './testServer.ts';

let server: TestServer;
const [ada, ben, cleo, dan] = Array.from({ length: 4 }, () => browser(() => server.address()));
let job: Job;
let picture: Picture;

beforeAll(async () => {
  server = await startPeopledServer();
  await ada.signIn('Ada');
  await ben.signIn('Ben');
  await cleo.signIn('Cleo');
  const invited = await ada.ask<{ token: string }>('POST', '/people/invitations', {
    ...{ name: 'Dan', role: 'works' },
  });
  await dan.ask('POST', `/invitations/${invited.answer.token}`, { password: 'lamps along the line' });
  job = (await ben.ask<Job>('POST', '/jobs', { name: 'A family album' })).answer;
  const file = await encodePicture(speckled(), {}, { format: 'png', depth: 8, quality: 100 });
  picture = await ben.add(job.id, 'portrait.png', file);
  for (let tried = 0; picture.state !== 'ready' && tried < 100; tried++) {
    await new Promise((resolve) => setTimeout(resolve, 50));
    picture = (await ben.ask<PictureSheet>('GET', `/pictures/${picture.id}`)).answer.picture;
  }
});
afterAll(() => server.close());

/** Where the one speck of the picture lies. */
const MARKED = {
  ...{ id: 'hand1', number: 1, kind: 'speck', polarity: 'dark', x: 48, y: 40, r: 4 },
  ...{ strength: 0.4, softness: 0.3, confidence: 1 },
};

/** A grey slope with a dark speck on it. */
function speckled(): Raster {
  const raster = createRaster(96, 80, 3, 8);
  for (const plane of raster.planes)
    for (let i = 0; i < plane.length; i++) {
      const [x, y] = [i % 96, Math.floor(i / 96)];
      const isSpeck = Math.hypot(x - MARKED.x, y - MARKED.y) < MARKED.r;
      plane[i] = (isSpeck ? 60 : 130) + (x >> 2) + ((x * 7 + y * 13) % 5);
    }
  return raster;
}

const readersOf = ({ readers }: JobAccess): string[] =>
  readers.filter(({ sees }) => sees).map(({ name }) => name);
const idOf = ({ readers }: JobAccess, name: string): string =>
  readers.find((reader) => reader.name === name)?.id ?? '';

/** All the ways in which somebody could come at what is in the job. */
const ways = (): [string, string, unknown?][] => [
  ['GET', `/jobs/${job.id}`],
  ['GET', `/jobs/${job.id}/people`],
  ['GET', `/jobs/${job.id}/runs`],
  ['GET', `/JOBS/${job.id}/doubts/`],
  ['GET', `/pictures/${picture.id}`],
  ['GET', `/pictures/${picture.id}/findings`],
  ['GET', `/pictures/${picture.id}/crop?x=20&y=20&half=10`],
  ['GET', `/pictures/${picture.id}/report.html`],
  ['GET', `/pictures/${picture.id}/deliveries`],
  ['GET', `/tiles/${picture.pyramid}/0/0/0`],
  ['GET', `/tiles/${picture.pyramid.toUpperCase()}/0/0/0`],
  ['POST', `/pictures/${picture.id}/undo`, { revision: 0 }],
  ['PATCH', `/pictures/${picture.id}`, { setAside: true }],
  ['DELETE', `/pictures/${picture.id}`],
  ['DELETE', `/jobs/${job.id}`],
  ['POST', `/bin/jobs/${job.id}/restore`],
  ['POST', `/bin/pictures/${picture.id}/restore`],
  ['PUT', `/jobs/${job.id}/present`, { window: 'window-of-dan', picture: picture.id }],
  ['PUT', `/jobs/${job.id}/people`, { everybody: true, people: [] }],
];

describe('a job', () => {
  it('is seen by whoever made it and by who runs the place, and is not there for others', async () => {
    const titles = async (page: typeof ben): Promise<string[]> =>
      (await page.ask<Job[]>('GET', '/jobs')).answer.map(({ name }) => name);
    expect(await titles(ben)).toEqual(['A family album']);
    expect(await titles(ada)).toEqual(['A family album']);
    expect(await titles(dan)).toEqual([]);
    expect(picture.state).toBe('ready');
    for (const [method, path, body] of ways())
      expect([method, path, (await dan.ask(method, path, body)).status]).toEqual([method, path, 404]);
    const { answer } = await ben.ask<JobAccess>('GET', `/jobs/${job.id}/people`);
    expect(answer.everybody).toBe(false);
    expect(readersOf(answer)).toEqual(['Ada', 'Ben']);
  });

  it('is shared with some, and taken from them again at once', async () => {
    const { answer: access } = await ben.ask<JobAccess>('GET', `/jobs/${job.id}/people`);
    const shared = await ben.ask<JobAccess>('PUT', `/jobs/${job.id}/people`, {
      ...{ everybody: false, people: [idOf(access, 'Dan')] },
    });
    expect(readersOf(shared.answer)).toEqual(['Ada', 'Ben', 'Dan']);
    expect((await dan.ask('GET', `/pictures/${picture.id}`)).status).toBe(200);
    expect((await cleo.ask('GET', `/pictures/${picture.id}`)).status).toBe(404);
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: false, people: [] });
    expect((await dan.ask('GET', `/pictures/${picture.id}`)).status).toBe(404);
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: true, people: [] });
    for (const page of [ada, ben, cleo, dan])
      expect((await page.ask('GET', `/pictures/${picture.id}`)).status).toBe(200);
  });

  it('lends nothing to a job of somebody else', async () => {
    const other = (await dan.ask<Job>('POST', '/jobs', { name: 'Next to it' })).answer;
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: false, people: [] });
    for (const body of [
      { kind: 'faults', pictures: [picture.id], faults: [{ picture: picture.id, fault: 'f1' }] },
      { kind: 'carry', pictures: [], from: picture.id, revision: 0, sure: 0.5 },
      { kind: 'delivery', pictures: [picture.id], delivery: { format: 'png' }, pattern: '{name}' },
    ]) {
      const { status } = await dan.ask('POST', `/jobs/${other.id}/runs`, body);
      expect([body.kind, status >= 400 && status < 500]).toEqual([body.kind, true]);
    }
    const seen = { window: 'window-of-dan', picture: picture.id };
    expect((await dan.ask<Present[]>('PUT', `/jobs/${other.id}/present`, seen)).status).toBe(404);
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: true, people: [] });
  });
});

describe('what happens in a job', () => {
  /** Watches a job from now on, and makes time pass for what the server asks itself now and then. */
  async function watching(page: typeof ben): Promise<{ passes: () => void; ended: Promise<boolean> }> {
    vi.useFakeTimers({ toFake: ['setInterval', 'clearInterval'] });
    const response = await fetch(`${server.address()}/api/jobs/${job.id}/events`, {
      headers: { cookie: page.cookie },
    });
    const reading = (async () => {
      for await (const chunk of response.body ?? []) void chunk;
      return true;
    })();
    const late = new Promise<boolean>((resolve) => setTimeout(() => resolve(false), 5000));
    return { passes: () => void vi.advanceTimersByTime(25_000), ended: Promise.race([reading, late]) };
  }
  afterEach(() => void vi.useRealTimers());

  it.each(['the job is shared no longer', 'they sign out'])('is heard by others until %s', async (why) => {
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: true, people: [] });
    await cleo.signIn('Cleo');
    const { passes, ended } = await watching(cleo);
    if (why === 'they sign out') await cleo.ask('DELETE', '/session');
    else await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: false, people: [] });
    passes();
    expect(await ended).toBe(true);
    await cleo.signIn('Cleo');
    await ben.ask('PUT', `/jobs/${job.id}/people`, { everybody: true, people: [] });
  });

  it('is heard on and on by those who see it', async () => {
    const { passes, ended } = await watching(ben);
    passes();
    expect(await ended).toBe(false);
  });
});

describe('who did what', () => {
  it('stands in the history, also for what a run did, and when the account is gone', async () => {
    const { answer: sheet } = await dan.ask<PictureSheet>('GET', `/pictures/${picture.id}`);
    const marked = await dan.ask<EditAnswer>('POST', `/pictures/${picture.id}/edits`, {
      ...{ revision: sheet.revision, edit: { words: 'Marked', steps: [{ op: 'mark', fault: MARKED }] } },
    });
    expect(marked.status).toBe(200);
    expect(marked.answer.done.at(-1)).toMatchObject({ by: 'Dan' });
    const run = await ben.ask<Run>('POST', `/jobs/${job.id}/runs`, {
      ...{ kind: 'faults', pictures: [picture.id], faults: [{ picture: picture.id, fault: MARKED.id }] },
    });
    expect(run.status).toBe(202);
    for (let tried = 0; tried < 100; tried++) {
      const { answer } = await ben.ask<Run>('GET', `/runs/${run.answer.id}`);
      if (answer.state === 'done') break;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    const people = (await ada.ask<{ id: string; name: string }[]>('GET', '/people')).answer;
    await ada.ask('DELETE', `/people/${people.find(({ name }) => name === 'Dan')?.id ?? ''}`);
    const { done } = (await ben.ask<PictureSheet>('GET', `/pictures/${picture.id}`)).answer;
    expect(done.map(({ by }) => by)).toEqual(['Dan', 'Ben']);
  });
});

describe('two people on one picture', () => {
  it('see one another, until one leaves', async () => {
    const place = (window: string, id: string | null) => ({ window, picture: id });
    const first = await ben.ask<Present[]>(
      ...(['PUT', `/jobs/${job.id}/present`, place('window-of-ben', picture.id)] as const),
    );
    expect(first.answer.map(({ name }) => name)).toEqual(['Ben']);
    const both = await cleo.ask<Present[]>(
      ...(['PUT', `/jobs/${job.id}/present`, place('window-of-cleo', picture.id)] as const),
    );
    expect(both.answer).toEqual([
      { window: 'window-of-ben', name: 'Ben', picture: picture.id },
      { window: 'window-of-cleo', name: 'Cleo', picture: picture.id },
    ]);
    // Nobody moves another's window.
    await cleo.ask('PUT', `/jobs/${job.id}/present`, place('window-of-ben', null));
    const left = await cleo.ask<Present[]>(
      ...(['PUT', `/jobs/${job.id}/present`, place('window-of-cleo', null)] as const),
    );
    expect(left.answer.map(({ name }) => name)).toEqual(['Ben']);
  });
});
