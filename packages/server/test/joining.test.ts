import type { AssemblyDocument, Job, Joined, Picture, PictureSheet } from '@fennip/contract';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

const PICTURES = fileURLToPath(new URL('../../scenes/pictures', import.meta.url));
const SCAN = 'valley-torn-in-two.tif';

let server: TestServer;
let job: Job;
let scan: Picture;
beforeAll(async () => {
  server = await startTestServer();
  job = await server.post<Job>('/jobs', { name: 'From the album' });
  const { id } = await server.add(job.id, SCAN, await readFile(join(PICTURES, SCAN)));
  scan = await server.until(job.id, id, ({ state }) => state === 'ready');
});
afterAll(() => server.close());

const refusedWith = async (pictures: readonly string[]): Promise<{ status: number; detail?: string }> =>
  server.refusal(`/jobs/${job.id}/joined`, {
    method: 'POST',
    body: JSON.stringify({ pictures }),
    headers: { 'content-type': 'application/json' },
  });

describe('a print torn in two', () => {
  it('becomes a picture of the job, with its seams in the ledger and how it was made', async () => {
    const { picture, found, laid } = await server.post<Joined>(`/jobs/${job.id}/joined`, {
      pictures: [scan.id],
    });
    expect([found, laid]).toEqual([2, 2]);
    expect(picture).toMatchObject({ name: 'valley-torn-in-two-joined.tif', nature: 'print', density: 300 });
    await server.until(job.id, picture.id, ({ state }) => state === 'ready');
    const sheet = await server.get<PictureSheet>(`/pictures/${picture.id}`);
    expect(sheet.faults.length).toBeGreaterThan(5);
    expect(sheet.faults.every(({ kind, isExact }) => isExact === true && kind === 'tear')).toBe(true);
    expect(sheet.faults.map(({ number }) => number)).toEqual(sheet.faults.map((_, k) => k + 1));
    expect(sheet.nextFault).toBe(sheet.faults.length + 1);

    const document = await server.get<AssemblyDocument>(`/pictures/${picture.id}/assembly`);
    expect(document).toMatchObject({
      format: 'fennip-assembly',
      scans: [{ name: SCAN, width: scan.width, height: scan.height }],
      width: picture.width,
      height: picture.height,
    });

    // An examination finds what it finds; the seams stay as they are known.
    await server.post(`/pictures/${picture.id}/examination`, {
      sensitivity: 0.7,
      polarities: ['dark', 'bright'],
    });
    await server.until(job.id, picture.id, ({ examined }) => examined === 'done');
    const after = await server.get<PictureSheet>(`/pictures/${picture.id}`);
    const ids = new Set(after.faults.map(({ id }) => id));
    expect(sheet.faults.every(({ id }) => ids.has(id))).toBe(true);
  });

  it('is refused with a sentence where nothing can be joined', async () => {
    const plain = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#eee' } })
      .png()
      .toBuffer();
    const { id } = await server.add(job.id, 'lid.png', plain);
    await server.until(job.id, id, ({ state }) => state === 'ready');
    expect(await refusedWith([id])).toMatchObject({ status: 422 });
    expect(await refusedWith([scan.id, id])).toMatchObject({ status: 422 });
    expect(await refusedWith(['00000000-0000-4000-8000-000000000000'])).toMatchObject({ status: 409 });
    expect(await refusedWith([])).toMatchObject({ status: 400 });
    const { pictures } = await server.get<{ pictures: Picture[] }>(`/jobs/${job.id}`);
    expect(pictures.filter(({ name }) => name.endsWith('-joined.tif'))).toHaveLength(1);
  });

  it('has no assembly where it was not joined', async () => {
    expect((await server.refusal(`/pictures/${scan.id}/assembly`, {})).status).toBe(404);
  });
});
