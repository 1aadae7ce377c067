import pino from 'pino';
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest';
import { connect } from '../src/database/connect.ts';
import type { Queue } from '../src/queue/queue.ts';
import { openQueue } from '../src/queue/queue.ts';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

const log = pino({ level: 'silent' });
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
        piece: async (id) => {
          await pause(30);
          done.push(id);
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
      piece: (id) => {
        attempts.push(id);
        const isFirst = attempts.filter((one) => one === id).length === 1;
        return id === 'frail' && isFirst ? Promise.reject(new Error('not this time')) : Promise.resolve();
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
      piece: async () => {
        isBegun = true;
        await finished;
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
});
