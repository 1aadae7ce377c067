import { createHash, randomBytes } from 'node:crypto';
import { mkdir, mkdtemp, readFile, readdir, rm, truncate, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Job, Picture, PictureSheet } from '@fennip/contract';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Database } from '../src/database/connect.ts';
import { connect } from '../src/database/connect.ts';
import { backUp } from '../src/upkeep/backUp.ts';
import { checkStore } from '../src/upkeep/checkStore.ts';
import { emptyStoreBin } from '../src/upkeep/emptyStoreBin.ts';
import { restore } from '../src/upkeep/restore.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

let server: TestServer;
let database: Database;
let folder = '';
const pictures: Picture[] = [];
beforeAll(async () => {
  server = await startTestServer();
  database = connect(server.config.databaseUrl);
  folder = await mkdtemp(join(tmpdir(), 'fennip-upkeep-'));
  const job = await server.post<Job>('/jobs', { name: 'Kept' });
  for (const shade of [10, 200]) {
    const raster = createRaster(700, 400, 1, 8);
    raster.planes[0].fill(shade);
    const file = await encodePicture(raster, {}, { format: 'png', depth: 8, quality: 100 });
    const { id } = await server.add(job.id, `${shade}.png`, file);
    pictures.push(await server.until(job.id, id, ({ state }) => state === 'ready'));
  }
});
afterAll(async () => {
  await database.destroy();
  await server.close();
  await rm(folder, { recursive: true });
});

const pathOf = (...names: string[]): string => join(server.config.storeFolder, ...names);

describe('the check of the store', () => {
  it('finds nothing where all is well, and names what is missing, cut, exchanged or named by nothing', async () => {
    const check = (reads: 'sizes' | 'contents') => checkStore(database, server.config.storeFolder, reads);
    expect(await check('contents')).toMatchObject({ files: 2, broken: [], cutLevels: [], unknown: [] });

    const [one, other] = pictures.map(({ pyramid }) => pathOf('originals', pyramid));
    const [kept, keptOther] = await Promise.all([readFile(one), readFile(other)]);
    await truncate(one, 40);
    await writeFile(other, randomBytes(keptOther.length));
    await writeFile(pathOf('originals', 'stranger'), 'nobody names me');
    const tiles = pathOf('pyramids', pictures[0].pyramid, '0.tiles');
    const level = await readFile(tiles);
    await truncate(tiles, 5);
    const found = await check('contents');
    expect(found.broken).toEqual(
      expect.arrayContaining([
        `originals/${pictures[0].pyramid} has 40 of ${kept.length} bytes`,
        `originals/${pictures[1].pyramid} holds something else`,
      ]),
    );
    expect([found.broken.length, found.unknown]).toEqual([2, ['originals/stranger']]);
    expect(found.cutLevels).toEqual([`pyramids/${pictures[0].pyramid}/0`]);
    // By their sizes alone what was exchanged is not seen.
    expect((await check('sizes')).broken).toHaveLength(1);

    await writeFile(one, kept);
    await writeFile(other, keptOther);
    await writeFile(tiles, level);
    await rm(pathOf('originals', 'stranger'));
  });
});

describe('a backup', () => {
  it('made while the server works comes back as it was at one moment, and its pictures are prepared again', async () => {
    const from = join(folder, 'backup');
    const mark = (k: number) => ({
      revision: k,
      edit: {
        words: 'Marked',
        steps: [
          {
            op: 'mark',
            fault: {
              ...{ id: `x${k}`, number: k + 1, kind: 'speck', polarity: 'dark', x: 9, y: 9, r: 3 },
              ...{ strength: 0.2, softness: 0.4, confidence: 1 },
            },
          },
        ],
      },
    });
    let isMade = false;
    const edits = (async () => {
      let k = 0;
      for (; !isMade; k++) await server.post(`/pictures/${pictures[0].id}/edits`, mark(k));
      return k;
    })();
    const manifest = await backUp(database, server.config.databaseUrl, server.config.storeFolder, from);
    isMade = true;
    const made = await edits;
    expect(manifest.files).toHaveLength(2);

    const url = new URL(server.config.databaseUrl);
    const name = `fennip_restored_${randomBytes(5).toString('hex')}`;
    const admin = new pg.Client({ connectionString: server.config.databaseUrl });
    await admin.connect();
    await admin.query(`create database ${name}`);
    url.pathname = name;
    const store = join(folder, 'store');
    const empty = connect(url.href);
    await restore(empty, url.href, store, from);
    await expect(restore(empty, url.href, store, from)).rejects.toThrow('not empty');
    await empty.destroy();

    const again = await startTestServer({ databaseUrl: url.href, storeFolder: store });
    const { jobId, id, pyramid } = pictures[0];
    const picture = await again.until(jobId, id, ({ state }) => state === 'ready');
    expect(picture.revision).toBeLessThanOrEqual(made);
    const sheet = await again.get<PictureSheet>(`/pictures/${id}`);
    // As many marks as steps in its history: one moment, not two.
    expect(sheet.marked.length).toBe(picture.revision);
    expect(sheet.done.length).toBe(Math.min(100, picture.revision));
    const held = await readFile(join(store, 'originals', pyramid));
    expect(createHash('sha256').update(held).digest('hex')).toBe(pyramid);
    const tile = (of: TestServer): Promise<Buffer> => of.bytes(`/tiles/${pyramid}/0/1/0`);
    expect(await tile(again)).toEqual(await tile(server));
    await again.close();
    await admin.query(`drop database ${name} with (force)`);
    await admin.end();
  });

  it('is refused where a file of it is damaged, or it was never finished', async () => {
    const from = join(folder, 'damaged');
    const { databaseUrl, storeFolder } = server.config;
    await backUp(database, databaseUrl, storeFolder, from);
    await truncate(join(from, 'originals', pictures[0].pyramid), 10);
    const url = new URL(databaseUrl);
    url.pathname = 'postgres';
    const empty = connect(url.href);
    const bring = (k: number) => restore(empty, url.href, join(folder, `never-${k}`), from);
    await expect(bring(1)).rejects.toThrow(/damaged/);
    await rm(join(from, 'backup.json'));
    await expect(bring(2)).rejects.toThrow(/no whole backup/);
    await empty.destroy();
    // The next backup into the same folder makes it whole.
    await backUp(database, databaseUrl, storeFolder, from);
    const { sizeBytes, pyramid } = pictures[0];
    expect((await readFile(join(from, 'originals', pyramid))).length).toBe(sizeBytes);
  });
});

describe('the bin of the store', () => {
  it('is emptied of what lies there long enough, and of nothing else', async () => {
    const days = ['2026-01-05', new Date().toISOString().slice(0, 10)];
    for (const day of days) await mkdir(pathOf('bin', day, 'originals'), { recursive: true });
    expect(await emptyStoreBin(server.config.storeFolder, 30)).toEqual(['2026-01-05']);
    expect(await readdir(pathOf('bin'))).toEqual([days[1]]);
  });
});
