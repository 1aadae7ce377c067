import { randomUUID } from 'node:crypto';
import { readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Bin, Job, Picture, PictureSheet } from '@fennip/contract';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { purgeOlder } from '../src/bin/purge.ts';
import { connect } from '../src/database/connect.ts';
import { openStore } from '../src/store/store.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const grey = (shade: number): Promise<Buffer> => {
  const raster = createRaster(60, 40, 1, 8);
  raster.planes[0].fill(shade);
  return encodePicture(raster, {}, { format: 'png', depth: 8, quality: 100 });
};
const status = async (path: string, method: string): Promise<number> =>
  (await fetch(`${server.address()}/api${path}`, { method })).status;

async function jobOf(name: string, shades: readonly number[]): Promise<{ job: Job; pictures: Picture[] }> {
  const job = await server.post<Job>('/jobs', { name });
  const pictures: Picture[] = [];
  for (const shade of shades) {
    const { id } = await server.add(job.id, `${shade}.png`, await grey(shade));
    pictures.push(await server.until(job.id, id, ({ state }) => state === 'ready'));
  }
  return { job, pictures };
}

describe('the bin', () => {
  it('holds a picture that was taken out, with all that was done on it, and puts it back', async () => {
    const { job, pictures } = await jobOf('Spring', [10, 20]);
    const [one, other] = pictures;
    const edit = {
      words: 'Noted',
      steps: [
        {
          op: 'mark',
          fault: {
            ...{ id: 'x1', number: 1, kind: 'speck', polarity: 'dark', x: 9, y: 9, r: 3 },
            ...{ strength: 0.2, softness: 0.4, confidence: 1 },
          },
        },
      ],
    };
    await server.post(`/pictures/${one.id}/edits`, { revision: 0, edit });
    const before = await server.get<PictureSheet>(`/pictures/${one.id}`);
    expect(await status(`/pictures/${one.id}`, 'DELETE')).toBe(204);
    expect(await status(`/pictures/${one.id}`, 'GET')).toBe(404);
    const listed = await server.get<{ job: Job; pictures: Picture[] }>(`/jobs/${job.id}`);
    expect([listed.job.pictures, listed.pictures.map(({ id }) => id)]).toEqual([1, [other.id]]);
    expect((await server.get<Bin>('/bin')).pictures).toMatchObject([{ id: one.id, job: 'Spring' }]);
    expect(await status(`/bin/pictures/${one.id}/restore`, 'POST')).toBe(204);
    expect(await server.get<PictureSheet>(`/pictures/${one.id}`)).toEqual(before);
    // It is in the bin no more.
    expect(await status(`/bin/pictures/${one.id}/restore`, 'POST')).toBe(404);
  });

  it('holds a job with its pictures, and what was taken out of it before stays out', async () => {
    const { job, pictures } = await jobOf('Summer', [30, 40]);
    await status(`/pictures/${pictures[0].id}`, 'DELETE');
    expect(await status(`/jobs/${job.id}`, 'DELETE')).toBe(204);
    expect(await status(`/pictures/${pictures[1].id}`, 'GET')).toBe(404);
    const bin = await server.get<Bin>('/bin');
    expect(bin.jobs).toMatchObject([{ id: job.id, name: 'Summer', pictures: 1 }]);
    expect(bin.pictures).toEqual([]);
    expect(await status(`/bin/jobs/${job.id}/restore`, 'POST')).toBe(204);
    const back = await server.get<{ pictures: Picture[] }>(`/jobs/${job.id}`);
    expect(back.pictures.map(({ id }) => id)).toEqual([pictures[1].id]);
    for (const things of ['pictures', 'jobs'])
      expect(await status(`/bin/${things}/${randomUUID()}/restore`, 'POST')).toBe(404);
  });

  it('lets go for good only of what has lain there long enough', async () => {
    const { pictures } = await jobOf('Autumn', [50]);
    await status(`/pictures/${pictures[0].id}`, 'DELETE');
    const database = connect(server.config.databaseUrl);
    const store = await openStore(server.config.storeFolder, { keptBytes: 0 });
    const originals = (): Promise<string[]> => readdir(join(server.config.storeFolder, 'originals'));
    await purgeOlder({ database, store }, new Date(Date.now() - 60_000));
    expect(await originals()).toContain(pictures[0].pyramid);
    await purgeOlder({ database, store }, new Date(Date.now() + 60_000));
    expect(await originals()).not.toContain(pictures[0].pyramid);
    expect((await server.get<Bin>('/bin')).pictures).toEqual([]);
    await database.destroy();
  });
});
