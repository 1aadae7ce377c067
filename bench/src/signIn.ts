import type { EditAnswer, Job, Picture, PictureSheet } from '@fennip/contract';
import { createRaster } from '@fennip/core/raster';
import { encodePicture } from '@fennip/files';
import { addPerson, connect, readConfig, startServer } from '@fennip/server';
import pino from 'pino';
import { onBenchServer } from './benchServer.ts';
import type { Row } from './report.ts';
import { printTable } from './report.ts';

const WHO = { name: 'Ada', password: 'the incline in winter' };
const ROUNDS = 400;

/** Somebody who asks a server. */
interface Asker {
  ask<T>(method: string, path: string, body?: unknown): Promise<T>;
}

function asker(address: string, cookie: string): Asker {
  return {
    ask: async <T>(method: string, path: string, body?: unknown) => {
      const response = await fetch(`${address}/api${path}`, {
        method,
        headers: { cookie, 'x-requested-by': 'bench', 'content-type': 'application/json' },
        ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      });
      if (!response.ok) throw new Error(`${path}: ${response.status}`);
      const isJson = response.headers.get('content-type')?.includes('json');
      return (isJson ? await response.json() : await response.arrayBuffer()) as T;
    },
  };
}

async function signedIn(address: string): Promise<Asker> {
  const response = await fetch(`${address}/api/session`, {
    method: 'POST',
    headers: { 'x-requested-by': 'bench', 'content-type': 'application/json' },
    body: JSON.stringify(WHO),
  });
  return asker(
    address,
    response.headers
      .getSetCookie()
      .map((set) => set.split(';')[0])
      .join('; '),
  );
}

/** A small picture of somebody's own, ready to be worked on. */
async function ownPicture(by: Asker, address: string, cookie: string): Promise<Picture> {
  const job = await by.ask<Job>('POST', '/jobs', { name: 'Bench' });
  const file = await encodePicture(
    createRaster(600, 600, 3, 8),
    {},
    { format: 'png', depth: 8, quality: 90 },
  );
  const sent = await fetch(`${address}/api/jobs/${job.id}/pictures?name=grey.png`, {
    method: 'POST',
    headers: { cookie, 'x-requested-by': 'bench', 'content-type': 'application/octet-stream' },
    body: Buffer.from(file),
  });
  let picture = (await sent.json()) as Picture;
  while (picture.state === 'preparing') {
    await new Promise((resolve) => setTimeout(resolve, 50));
    ({ picture } = await by.ask<PictureSheet>('GET', `/pictures/${picture.id}`));
  }
  return picture;
}

const markOf = (k: number): object => ({
  ...{ id: `x${k}`, number: k + 1, kind: 'speck', polarity: 'dark', x: 9, y: 9, r: 3 },
  ...{ strength: 0.2, softness: 0.4, confidence: 1 },
});

const share = (times: readonly number[], part: number): number =>
  [...times].sort((a, b) => a - b)[Math.floor((times.length - 1) * part)];

/** What signing in costs an edit and a tile: two servers on one database, asked in turns. */
export async function benchSignIn(): Promise<void> {
  await onBenchServer(async (address, _folder, env) => {
    const database = connect(env['FENNIP_DATABASE_URL']);
    await addPerson(database, { ...WHO, role: 'works' });
    await database.destroy();
    const guarded = await startServer(
      { ...readConfig({ ...env, FENNIP_SIGN_IN: 'always' }), port: 0 },
      pino({ level: 'fatal' }),
    );
    const askers = [asker(address, ''), await signedIn(guarded.address)];
    // Open to all, so that both ask for the same kind of picture.
    const pictures = [await ownPicture(askers[0], address, ''), await ownPicture(askers[0], address, '')];
    const edits: number[][] = [[], []];
    const tiles: number[][] = [[], []];
    for (let k = 0; k < ROUNDS; k++)
      for (const [who, { ask }] of askers.entries()) {
        const { id, pyramid } = pictures[who];
        const body = {
          revision: k,
          edit: { words: 'Marked', steps: [{ op: 'mark', fault: markOf(k % 40) }] },
        };
        let begun = performance.now();
        await ask<EditAnswer>('POST', `/pictures/${id}/edits`, body);
        edits[who].push(performance.now() - begun);
        begun = performance.now();
        await ask('GET', `/tiles/${pyramid}/0/0/0`);
        tiles[who].push(performance.now() - begun);
      }
    await guarded.stop();
    const row = (name: string, [open, signed]: number[][], part: number): Row => {
      const [without, with_] = [share(open, part), share(signed, part)];
      return [name, with_, without, with_ / without];
    };
    printTable(
      'What signing in costs, ms',
      ['', 'signed in', 'without', 'ratio'],
      [
        row('an edit, median', edits, 0.5),
        row('an edit, 95 of 100', edits, 0.95),
        row('a tile, median', tiles, 0.5),
        row('a tile, 95 of 100', tiles, 0.95),
      ],
    );
  });
}
