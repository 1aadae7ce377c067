import type { EditAnswer, Job, PictureSheet } from '@fennip/contract';
import type { Step, Worksheet } from '@fennip/core/recipe';
import { applySteps, emptyWorksheet } from '@fennip/core/recipe';
import { mulberry } from '@fennip/core/random';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Application } from '../e2e/application.ts';
import { startApplication } from '../e2e/application.ts';
import { times } from './extent.ts';
import { smallPicture } from './pictures.ts';

const WRITERS = times(5, 20);
const [WIDTH, HEIGHT] = [160, 120];

/** What a writer does next to what it sees; now and then it takes a step back or forward instead. */
function chooseStep(
  writer: number,
  done: number,
  mends: readonly { readonly id: string }[],
  chance: () => number,
): [step: unknown, turn: 'undo' | 'redo' | null] {
  const what = chance();
  const one = mends[Math.floor(chance() * mends.length)];
  const disc = { x: 30 + writer, y: 30, r: 4 };
  const mend = {
    ...{ id: `w${writer}-${done}`, method: 'recover', margin: 3, edge: 1, share: 1, on: true, source: null },
    target: { shape: 'disc', ...disc },
    veil: { kind: 'disc', ...disc, softness: 0.4, stretch: 1, angle: 0, depth: 0.2, light: null },
  };
  if (what > 0.95) return [null, chance() < 0.5 ? 'undo' : 'redo'];
  if (what < 0.6 || !one) return [{ op: 'put', mend, at: Math.floor(chance() * 8) }, null];
  if (what < 0.8) return [{ op: 'drop', id: one.id }, null];
  return [{ op: 'put', mend: { ...one, share: 0.5 }, at: 0 }, null];
}

describe('many writers on one picture', () => {
  let application: Application;
  beforeAll(async () => {
    application = await startApplication({ database: 'shared' });
  });
  afterAll(() => application.close());

  const ask = async <T>(path: string, body?: unknown): Promise<{ status: number; answer: T }> => {
    const response = await fetch(`${application.address}/api${path}`, {
      ...(body === undefined
        ? {}
        : { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }),
    });
    return { status: response.status, answer: (await response.json()) as T };
  };

  it('leave what the edits that were taken make of it, in the order of their revisions, over undo and redo', async () => {
    const { answer: job } = await ask<Job>('/jobs', { name: 'Crowded' });
    const sent = await fetch(`${application.address}/api/jobs/${job.id}/pictures?name=a.png`, {
      ...{ method: 'POST', headers: { 'content-type': 'application/octet-stream' } },
      body: new Uint8Array(await smallPicture(1, WIDTH, HEIGHT)),
    });
    const { id } = (await sent.json()) as { id: string };
    const taken: { readonly revision: number; readonly steps: readonly Step[] }[] = [];
    let refused = 0;

    /** A writer that keeps trying until each of its edits was taken: it reads where the picture stands, and edits that. */
    async function write(writer: number): Promise<void> {
      const chance = mulberry(writer);
      for (let done = 0; done < times(2, 10);) {
        const { answer: sheet } = await ask<PictureSheet>(`/pictures/${id}`);
        const { revision, recipe } = sheet;
        const [step, turn] = chooseStep(writer, done, recipe.mends, chance);
        const { status, answer } = turn
          ? await ask<EditAnswer>(`/pictures/${id}/${turn}`, { revision })
          : await ask<EditAnswer>(`/pictures/${id}/edits`, {
              revision,
              edit: { words: `Writer ${writer}`, steps: [step] },
            });
        if (status === 409) refused++;
        else {
          expect(status).toBe(200);
          if (answer.revision > revision) taken.push({ revision: answer.revision, steps: answer.steps });
          done++;
        }
      }
    }

    await Promise.all(Array.from({ length: WRITERS }, (_, k) => write(k)));
    taken.sort((a, b) => a.revision - b.revision);
    // No two edits made the same revision, and none is missing.
    expect(taken.map(({ revision }) => revision)).toEqual(taken.map((_, k) => k + 1));
    const model = taken.reduce<Worksheet>(
      (sheet, { steps }) => applySteps(sheet, steps).worksheet,
      emptyWorksheet({ width: WIDTH, height: HEIGHT }),
    );
    const { answer: sheet } = await ask<PictureSheet>(`/pictures/${id}`);
    expect(sheet.recipe.mends).toEqual(model.recipe.mends);
    // They did get into one another's way.
    expect(refused).toBeGreaterThan(WRITERS / 2);
  });
});
