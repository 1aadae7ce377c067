import { randomUUID } from 'node:crypto';
import pino from 'pino';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { connect } from '../src/database/connect.ts';
import { beginAttempt } from '../src/queue/attempts.ts';
import type { Queue } from '../src/queue/queue.ts';
import { openQueue } from '../src/queue/queue.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

const log = pino({ level: 'silent' });
const giveUp = (id: string): Promise<void> => Promise.reject(new Error(`${id} was given up`));
const pause = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms));

async function until(is: () => boolean): Promise<void> {
  for (let k = 0; k < 400 && !is(); k++) await pause(50);
  expect(is()).toBe(true);
}

describe('the queue of background work', () => {
  // A server brings the database up; its own queue takes up no pieces.
  let server: TestServer;
  const open: (() => Promise<void>)[] = [];
  beforeAll(async () => {
    server = await startTestServer({ runs: 'by workers' });
  });
  afterEach(async () => {
    for (const close of open.splice(0)) await close();
  });
  afterAll(() => server.close());

  async function openOne(): Promise<Queue> {
    const database = connect(server.config.databaseUrl);
    const queue = await openQueue(server.config.databaseUrl, database, log);
    open.push(async () => {
      await queue.close();
      await database.destroy();
    });
    return queue;
  }

  it('has each piece done once, though two take work from it', async () => {
    const done: string[] = [];
    const [one, other] = [await openOne(), await openOne()];
    for (const queue of [one, other])
      await queue.serve({
        piece: {
          run: async (id) => {
            await pause(30);
            done.push(id);
          },
          giveUp,
        },
      });
    const ids = Array.from({ length: 12 }, (_, k) => `once-${k}`);
    for (const id of ids) await one.order('piece', id);
    await until(() => done.length >= ids.length);
    await pause(600);
    expect(done.sort()).toEqual([...ids].sort());
  });

  it('tries again what failed, and does not give the others up for it', async () => {
    const attempts: string[] = [];
    const queue = await openOne();
    await queue.serve({
      piece: {
        run: (id) => {
          attempts.push(id);
          const isFirst = attempts.filter((one) => one === id).length === 1;
          return id === 'frail' && isFirst ? Promise.reject(new Error('not this time')) : Promise.resolve();
        },
        giveUp,
      },
    });
    for (const id of ['frail', 'sound']) await queue.order('piece', id);
    await until(() => attempts.filter((id) => id === 'frail').length === 2);
    expect(attempts.filter((id) => id === 'sound')).toHaveLength(1);
  });

  it('knows what is being done now, and what no longer is', async () => {
    const queue = await openOne();
    let finish = (): void => undefined;
    let isBegun = false;
    const finished = new Promise<void>((resolve) => (finish = resolve));
    await queue.serve({
      piece: {
        run: async () => {
          isBegun = true;
          await finished;
        },
        giveUp,
      },
    });
    expect(await queue.isBeingDone('piece', 'long')).toBe(false);
    await queue.order('piece', 'long');
    await until(() => isBegun);
    expect(await queue.isBeingDone('piece', 'long')).toBe(true);
    finish();
    for (let k = 0; k < 40 && (await queue.isBeingDone('piece', 'long')); k++) await pause(50);
    expect(await queue.isBeingDone('piece', 'long')).toBe(false);
  });

  it('gives up what fails every time, and says why', async () => {
    const reasons: string[] = [];
    let attempts = 0;
    const queue = await openOne();
    await queue.serve({
      piece: {
        run: () => {
          attempts++;
          return Promise.reject(new Error('never'));
        },
        giveUp: (id, { key }) => {
          reasons.push(`${id} ${key}`);
          return Promise.resolve();
        },
      },
    });
    await queue.order('piece', 'hopeless');
    await until(() => reasons.length > 0);
    expect([attempts, reasons]).toEqual([3, ['hopeless work.failed']]);
  });

  it('does not begin again what ended five servers', async () => {
    const reasons: string[] = [];
    const begun: string[] = [];
    const database = connect(server.config.databaseUrl);
    // Four servers end while they are at nothing else; a fifth takes something else up beside it and ends too.
    for (let k = 0; k < 4; k++) await beginAttempt(database, 'piece', 'deadly', randomUUID());
    const last = randomUUID();
    await beginAttempt(database, 'piece', 'deadly', last);
    const worst = randomUUID();
    for (const id of ['deadly', 'beside']) await beginAttempt(database, 'piece', id, worst);
    const queue = await openOne();
    await queue.serve({
      piece: {
        run: (id) => {
          begun.push(id);
          return Promise.resolve();
        },
        giveUp: (id, { key }) => {
          reasons.push(`${id} ${key}`);
          return Promise.resolve();
        },
      },
    });
    for (const id of ['beside', 'deadly']) await queue.orderAgain('piece', id);
    await until(() => reasons.length > 0 && begun.length > 0);
    expect([begun, reasons]).toEqual([['beside'], ['deadly work.endedServer']]);
    // Whoever asks for it anew wants it tried anew.
    await queue.order('piece', 'deadly');
    await until(() => begun.includes('deadly'));
    await database.destroy();
  });

  it('does again what is ordered while it is being done', async () => {
    let begun = 0;
    const queue = await openOne();
    await queue.serve({
      piece: {
        run: async () => {
          begun++;
          await pause(400);
        },
        giveUp,
      },
    });
    await queue.order('piece', 'changing');
    await until(() => begun === 1);
    await queue.order('piece', 'changing');
    await until(() => begun === 2);
  });
});
