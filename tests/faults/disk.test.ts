import { execFileSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { readFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import type { Job, Picture } from '@fennip/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Application } from '../e2e/application.ts';
import { startApplication } from '../e2e/application.ts';
import { smallPicture } from './pictures.ts';

/** A disk of sixteen megabytes in memory; null where the system lets nobody mount one. */
function smallDisk(): string | null {
  const folder = mkdtempSync(join(tmpdir(), 'fennip-disk-'));
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=16m', 'tmpfs', folder], { stdio: 'ignore' });
    return folder;
  } catch {
    rmSync(folder, { recursive: true });
    console.warn('No disk can be mounted here: what a full one does is not tested.');
    return null;
  }
}

const disk = smallDisk();

describe.skipIf(disk === null)('a disk that is full', () => {
  let application: Application;
  let job: Job;
  beforeAll(async () => {
    application = await startApplication({
      ...{ database: 'shared', storeFolder: disk ?? '' },
      // The database lies elsewhere: here the disk may fill to its last byte.
      settings: { FENNIP_KEPT_BYTES: '1' },
    });
    job = (await (
      await fetch(`${application.address}/api/jobs`, {
        ...{ method: 'POST', headers: { 'content-type': 'application/json' } },
        body: JSON.stringify({ name: 'To the brim' }),
      })
    ).json()) as Job;
  });
  afterAll(async () => {
    await application.close();
    execFileSync('umount', [disk ?? '']);
    rmSync(disk ?? '', { recursive: true });
  });

  const send = (file: Buffer, body: BodyInit = new Uint8Array(file)): Promise<Response> =>
    fetch(`${application.address}/api/jobs/${job.id}/pictures?name=a.png`, {
      ...{ method: 'POST', headers: { 'content-type': 'application/octet-stream' }, body },
      ...(body instanceof ReadableStream ? { duplex: 'half' } : {}),
    });
  /** Sent in pieces, so that nobody knows beforehand how much comes: the disk itself must say that it is full. */
  const sendInPieces = (file: Buffer): Promise<Response> =>
    send(file, Readable.toWeb(Readable.from([file])) as ReadableStream);
  const pictures = async (): Promise<Picture[]> => {
    const response = await fetch(`${application.address}/api/jobs/${job.id}`);
    return ((await response.json()) as { pictures: Picture[] }).pictures;
  };
  const sha256 = (bytes: Uint8Array): string => createHash('sha256').update(bytes).digest('hex');

  it('refuses what does not fit with a sentence, loses nothing it has, and goes on when there is room', async () => {
    const kept: { readonly id: string; readonly file: Buffer }[] = [];
    let refused = 0;
    for (let k = 0; k < 24 && refused < 4; k++) {
      const file = await smallPicture(k, 900, 600);
      const response = await (k % 2 ? sendInPieces : send)(file);
      if (response.status === 201) kept.push({ id: ((await response.json()) as Picture).id, file });
      else {
        expect(response.status).toBe(507);
        expect(((await response.json()) as { detail: string }).detail).toMatch(/no room left on the disk/);
        refused++;
      }
    }
    expect(refused).toBe(4);
    expect(kept.length).toBeGreaterThan(2);

    // What is there already is sent once more, as somebody does who does not trust an answer.
    for (const { file } of kept.slice(0, 3)) expect([201, 507]).toContain((await send(file)).status);
    for (const { file } of kept) {
      const held = await readFile(join(application.storeFolder, 'originals', sha256(file)));
      expect(sha256(held)).toBe(sha256(file));
    }

    // Some are prepared, some wait for room; none is ready with a level that is cut.
    for (const { id } of kept.splice(0, 3))
      await fetch(`${application.address}/api/pictures/${id}`, { method: 'DELETE' });
    for (const { id } of (await pictures())
      .slice(0, -2)
      .filter((one) => !kept.some((of) => of.id === one.id)))
      await fetch(`${application.address}/api/pictures/${id}`, { method: 'DELETE' });
    await fetch(`${application.address}/api/bin`, { method: 'DELETE' });
    for (let k = 0; k < 60 && (await pictures()).some(({ state }) => state === 'preparing'); k++)
      await new Promise((resolve) => setTimeout(resolve, 500));
    for (const picture of await pictures()) {
      expect(picture.state).toBe('ready');
      const level = await readFile(join(application.storeFolder, 'pyramids', picture.pyramid, '0.tiles'));
      expect(level.length).toBe(picture.width * picture.height * picture.channels);
    }
    expect((await send(await smallPicture(99, 300, 200))).status).toBe(201);
  });
});
