import type { Job, Picture, Run } from '@fennip/contract';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { nextTick } from 'vue';
import { StandInEvents } from '../testing/eventSource.ts';
import { openPage } from '../testing/openPage.ts';
import { pictureSheet } from '../testing/pictureSheet.ts';
import type { StandInServer } from '../testing/standInServer.ts';
import { useJob } from './job.ts';
import { useRuns } from './runs.ts';

const theJob: Job = { id: 'j', name: 'Harbour', createdAt: '2026-03-01T12:00:00Z', pictures: 2 };
const pictureOf = (id: string, place: number, more: Partial<Picture> = {}): Picture => ({
  ...pictureSheet({ id }).picture,
  ...{ place, name: `${id}.tif` },
  ...more,
});
const run: Run = {
  ...{ id: 'r1', jobId: 'j', kind: 'series', state: 'running', createdAt: '2026-03-01T12:00:00Z' },
  request: { kind: 'series', pictures: ['a'], sensitivity: 0.7, examine: true, chart: false, mend: null },
  ...{ pieces: 4, done: 1, skipped: 0, failed: 0, mended: 0, doubts: 0 },
  ...{ work: 'mend', perMinute: 2, secondsLeft: 60 },
};
const settle = (ms = 0): Promise<unknown> => vi.advanceTimersByTimeAsync(ms);

let server: StandInServer;
beforeEach(() => {
  vi.useFakeTimers();
  vi.stubGlobal('EventSource', StandInEvents);
  StandInEvents.opened.length = 0;
  server = openPage();
  server.on('GET /jobs/j', () => ({ job: theJob, pictures: [pictureOf('a', 1), pictureOf('b', 2)] }));
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
const line = (): StandInEvents => {
  const opened = StandInEvents.opened.at(-1);
  if (!opened) throw new Error('no line was opened');
  return opened;
};

describe('the job that is open', () => {
  const opened = async () => {
    const job = useJob();
    await job.open('j');
    return job;
  };
  const names = (job: ReturnType<typeof useJob>): string[] => job.pictures.map(({ name }) => name);

  it('follows what happens in it: pictures come, change and go, in their places', async () => {
    const job = await opened();
    expect(line().address).toBe('/api/jobs/j/events');
    line().say({ type: 'picture', picture: pictureOf('d', 9) });
    line().say({ type: 'picture', picture: pictureOf('c', 5) });
    expect(names(job)).toEqual(['a.tif', 'b.tif', 'c.tif', 'd.tif']);
    line().say({ type: 'picture', picture: pictureOf('b', 2, { name: 'new name.tif' }) });
    line().say({ type: 'gone', pictureId: 'a' });
    expect(names(job)).toEqual(['new name.tif', 'c.tif', 'd.tif']);
  });

  it('asks anew for what it did not hear, when the line stands again', async () => {
    const job = await opened();
    const woken = vi.fn();
    job.onFollowing(woken);
    server.on('GET /jobs/j', () => ({ job: theJob, pictures: [pictureOf('z', 1)] }));
    line().onopen?.();
    await settle();
    expect(names(job)).toEqual(['z.tif']);
    expect(woken).toHaveBeenCalledTimes(1);
  });

  it('takes what it heard while an answer was on its way for newer than the answer', async () => {
    const job = await opened();
    server.on('GET /jobs/j', () => {
      line().say({ type: 'gone', pictureId: 'a' });
      return { job: theJob, pictures: [pictureOf('a', 1), pictureOf('b', 2)] };
    });
    line().onopen?.();
    await settle();
    expect(names(job)).toEqual(['b.tif']);
  });

  it('knows what was heard of a picture for newer than an answer that comes after it', async () => {
    const job = await opened();
    const failed = pictureOf('a', 1, { examined: 'failed' });
    const answered = await job.newestOf(() => {
      line().say({ type: 'picture', picture: failed });
      line().say({ type: 'picture', picture: pictureOf('b', 2, { examined: 'done' }) });
      return Promise.resolve(pictureOf('a', 1, { examined: 'waiting' }));
    });
    expect(answered).toEqual(failed);
    const quiet = await job.newestOf(() => Promise.resolve(pictureOf('a', 1, { examined: 'waiting' })));
    expect(quiet.examined).toBe('waiting');
  });

  it('opens another line where one was refused, until the job is left', async () => {
    const job = await opened();
    line().refuse();
    await settle(2000);
    expect(StandInEvents.opened).toHaveLength(2);
    line().refuse();
    job.close();
    await settle(10_000);
    expect(StandInEvents.opened).toHaveLength(2);
    expect(job.pictures).toEqual([]);
  });

  it('says how far work is that goes on behind it, and no longer once that is done', async () => {
    const job = await opened();
    expect(job.backgroundShare).toBeNull();
    line().say({ type: 'progress', pictureId: 'a', work: 'examine', share: 0.2 });
    line().say({ type: 'progress', pictureId: 'b', work: 'examine', share: 0.6 });
    expect(job.workShare('a', 'examine')).toBe(0.2);
    expect(job.backgroundShare).toBeCloseTo(0.4, 9);
    line().say({ type: 'picture', picture: pictureOf('a', 1, { examined: 'done' }) });
    expect(job.workShare('a', 'examine')).toBeNull();
    expect(job.backgroundShare).toBe(0.6);
  });

  it('that cannot be opened says why, and is asked for again when it is opened again', async () => {
    const job = useJob();
    server.refuse(404, 'There is no such job.');
    await job.open('j');
    expect(job.problem).toBe('There is no such job.');
    await job.open('j');
    expect(job.problem).toBeNull();
    expect(names(job)).toEqual(['a.tif', 'b.tif']);
    const count = server.asked.length;
    await job.open('j');
    expect(server.asked).toHaveLength(count);
  });
});

describe('the runs of a job', () => {
  const loaded = async () => {
    server.on('GET /jobs/j/runs', () => [run]);
    server.on('GET /jobs/j/doubts', () => []);
    server.on('GET /charts', () => []);
    const job = useJob();
    await job.open('j');
    const runs = useRuns();
    await settle();
    return runs;
  };

  it('are there with how far all of them are', async () => {
    const runs = await loaded();
    expect(runs.isLoaded).toBe(true);
    expect(runs.share).toBe(0.25);
    line().say({ type: 'run', run: { ...run, id: 'r2', pieces: 4, done: 3 } });
    expect(runs.runs.map(({ id }) => id)).toEqual(['r2', 'r1']);
    expect(runs.share).toBe(0.5);
    for (const id of ['r1', 'r2']) line().say({ type: 'run', run: { ...run, id, state: 'done' } });
    expect(runs.share).toBeNull();
    expect(runs.under).toEqual([]);
  });

  it('ask for what is left to decide when one has ended, and pass over those of other jobs', async () => {
    const runs = await loaded();
    const before = server.asked.filter(({ path }) => path === '/jobs/j/doubts').length;
    line().say({ type: 'run', run: { ...run, id: 'far', jobId: 'another' } });
    expect(runs.runs).toHaveLength(1);
    line().say({ type: 'run', run: { ...run, state: 'done' } });
    await settle();
    expect(server.asked.filter(({ path }) => path === '/jobs/j/doubts')).toHaveLength(before + 1);
  });

  it('are started and steered, one or all', async () => {
    const runs = await loaded();
    server.on('POST /jobs/j/runs', () => ({ ...run, id: 'r3' }));
    server.on('POST /runs/r3/steer', () => ({ ...run, id: 'r3', state: 'paused' }));
    server.on('POST /jobs/j/runs/steer', () => [{ ...run, state: 'stopped' }]);
    await runs.start(run.request);
    expect(runs.runs.map(({ id }) => id)).toEqual(['r3', 'r1']);
    await runs.steer(runs.runs[0], 'pause');
    expect(runs.runs[0].state).toBe('paused');
    await runs.steerAll('stop');
    expect(runs.runs.map(({ state }) => state)).toEqual(['paused', 'stopped']);
  });

  it('are forgotten with their job', async () => {
    const runs = await loaded();
    useJob().close();
    await nextTick();
    expect(runs.runs).toEqual([]);
    expect(runs.isLoaded).toBe(false);
  });
});
