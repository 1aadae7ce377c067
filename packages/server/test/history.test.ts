import type { EditAnswer, Job, Picture, PictureSheet } from '@fennip/contract';
import type { Fence } from '@fennip/core/fence';
import type { HealMend } from '@fennip/core/mend';
import { createRaster } from '@fennip/core/raster';
import type { Edit, Step, Worksheet } from '@fennip/core/recipe';
import { applySteps } from '@fennip/core/recipe';
import { encodePicture } from '@fennip/files';
import fc from 'fast-check';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

const heal = (n: number, x: number): HealMend => ({
  ...{ id: `h${n}`, method: 'heal', target: { shape: 'disc', x, y: 20, r: 3 } },
  ...{ margin: 1, edge: 2, share: 1, on: true, source: { dx: 10, dy: 0 } },
});
const fence = (n: number, r: number): Fence => ({
  ...{ id: `g${n}`, kind: 'guard', name: `Guard ${n}`, edge: 1, on: true },
  area: { shape: 'disc', x: 20, y: 20, r },
});
const number = fc.integer({ min: 1, max: 3 });
const size = fc.integer({ min: 4, max: 30 });

/** A step that may or may not fit what is there. */
const steps: fc.Arbitrary<Step> = fc.oneof(
  fc.record({ n: number, x: size }).map(({ n, x }): Step => ({ op: 'put', mend: heal(n, x), at: 0 })),
  number.map((n): Step => ({ op: 'drop', id: `h${n}` })),
  fc.record({ n: number, r: size }).map(({ n, r }): Step => ({ op: 'fence', fence: fence(n, r), at: 0 })),
  number.map((n): Step => ({ op: 'unfence', id: `g${n}` })),
  fc.record({ n: number, r: size }).map(({ n, r }): Step => ({
    op: 'mark',
    fault: {
      ...{ id: `m${n}`, number: 100 + n, kind: 'speck', polarity: 'dark' },
      ...{ x: 9, y: 9, r, strength: 0.5, softness: 0.5, confidence: 1 },
    },
  })),
);
type Act = { readonly edit: Edit } | 'undo' | 'redo';
const acts = fc.array(
  fc.oneof(
    {
      weight: 6,
      arbitrary: fc
        .array(steps, { minLength: 1, maxLength: 3 })
        .map((list): Act => ({ edit: { words: 'did something', steps: list } })),
    },
    { weight: 3, arbitrary: fc.constantFrom<Act>('undo', 'redo') },
  ),
  { minLength: 5, maxLength: 25 },
);

/** What a history must be, worked out by core alone. */
class Expected {
  worksheet: Worksheet;
  readonly #done: { readonly steps: readonly Step[]; readonly inverse: readonly Step[] }[] = [];
  readonly #undone: { readonly steps: readonly Step[] }[] = [];

  constructor(sheet: PictureSheet) {
    const { recipe, judgements, kinds, marked } = sheet;
    this.worksheet = { recipe, judgements, kinds, marked };
  }

  /** @returns false where the steps do not fit */
  edit(list: readonly Step[]): boolean {
    try {
      const { worksheet, inverse } = applySteps(this.worksheet, list);
      this.worksheet = worksheet;
      this.#done.push({ steps: list, inverse });
      this.#undone.length = 0;
      return true;
    } catch {
      return false;
    }
  }

  undo(): void {
    const last = this.#done.pop();
    if (!last) return;
    this.worksheet = applySteps(this.worksheet, last.inverse).worksheet;
    this.#undone.unshift(last);
  }

  redo(): void {
    const next = this.#undone.shift();
    if (!next) return;
    const { worksheet, inverse } = applySteps(this.worksheet, next.steps);
    this.worksheet = worksheet;
    this.#done.push({ ...next, inverse });
  }

  get counts(): [number, number] {
    return [this.#done.length, this.#undone.length];
  }
}

describe('the history of a picture', () => {
  let server: TestServer;
  let job: Job;
  let file: Buffer;
  beforeAll(async () => {
    server = await startTestServer();
    job = await server.post<Job>('/jobs', { name: 'history' });
    file = await encodePicture(createRaster(40, 40, 3, 8), {}, { format: 'png', quality: 100, depth: 8 });
  });
  afterAll(() => server.close());

  async function newPicture(name: string): Promise<Picture> {
    const { id } = await server.add(job.id, name, file);
    return server.until(job.id, id, ({ state }) => state === 'ready');
  }
  const sheetOf = (id: string): Promise<PictureSheet> => server.get<PictureSheet>(`/pictures/${id}`);
  const send = (id: string, path: string, body: unknown): Promise<Response> =>
    fetch(`${server.address()}/api/pictures/${id}/${path}`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify(body),
    });

  it('is what core makes of the same steps, after any edits, undos and redos', async () => {
    let count = 0;
    await fc.assert(
      fc.asyncProperty(acts, async (list) => {
        const { id } = await newPicture(`walk ${count++}.png`);
        const expected = new Expected(await sheetOf(id));
        let { revision } = await sheetOf(id);
        for (const act of list) {
          if (typeof act === 'object') {
            const answer = await send(id, 'edits', { revision, edit: act.edit });
            expect(answer.ok).toBe(expected.edit(act.edit.steps));
            if (answer.ok) ({ revision } = (await answer.json()) as EditAnswer);
          } else {
            const answer = await send(id, act, { revision });
            // Where there is nothing to take back, nothing changes.
            expect(answer.ok).toBe(true);
            expected[act]();
            ({ revision } = (await answer.json()) as EditAnswer);
          }
        }
        const { recipe, judgements, kinds, marked, done, undone } = await sheetOf(id);
        expect({ recipe, judgements, kinds, marked }).toEqual(expected.worksheet);
        expect([done.length, undone.length]).toEqual(expected.counts);
      }),
      { numRuns: 12 },
    );
  });

  it('goes back to the first edit after the server was started again', async () => {
    const { id } = await newPicture('again.png');
    let { revision } = await sheetOf(id);
    for (const n of [1, 2, 3]) {
      const edit = { words: `healed ${n}`, steps: [{ op: 'put', mend: heal(n, 5 * n), at: 0 }] };
      ({ revision } = await server.post<EditAnswer>(`/pictures/${id}/edits`, { revision, edit }));
    }
    await server.restart();
    for (let n = 3; n > 0; n--)
      ({ revision } = await server.post<EditAnswer>(`/pictures/${id}/undo`, { revision }));
    const sheet = await sheetOf(id);
    expect(sheet.recipe.mends).toEqual([]);
    expect(sheet.undone.map(({ words }) => words)).toEqual(['healed 1', 'healed 2', 'healed 3']);
  });

  it('takes one of two edits that were made on the same revision, and refuses the other', async () => {
    const { id } = await newPicture('two.png');
    const { revision } = await sheetOf(id);
    const answers = await Promise.all(
      Array.from({ length: 6 }, (_, n) =>
        send(id, 'edits', {
          revision,
          edit: { words: 'healed', steps: [{ op: 'put', mend: heal(n, 5), at: 0 }] },
        }),
      ),
    );
    expect(answers.map(({ status }) => status).sort()).toEqual([200, 409, 409, 409, 409, 409]);
    expect((await sheetOf(id)).recipe.mends).toHaveLength(1);
  });

  it('tells whoever watches the job of each edit, with its revision', async () => {
    const { id } = await newPicture('watched.png');
    const { events, stop } = await server.follow(job.id);
    let { revision } = await sheetOf(id);
    const edit = { words: 'healed', steps: [{ op: 'put', mend: heal(1, 5), at: 0 }] };
    ({ revision } = await server.post<EditAnswer>(`/pictures/${id}/edits`, { revision, edit }));
    for (let k = 0; k < 50 && !events.some(({ type }) => type === 'edited'); k++)
      await new Promise((resolve) => setTimeout(resolve, 50));
    stop();
    expect(events).toContainEqual(expect.objectContaining({ type: 'edited', pictureId: id, revision }));
  });
});
