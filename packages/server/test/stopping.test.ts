import { readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Delivery, DeliveryState, Job } from '@fennip/contract';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestServer } from './testServer.ts';
import { startTestServer } from './testServer.ts';

/** A camera frame of the demo. */
const FRAME = join(import.meta.dirname, '..', '..', 'scenes', 'pictures', 'viaduct-line-shoot-1.jpg');

describe('deliveries', () => {
  let server: TestServer;
  let id = '';
  beforeAll(async () => {
    server = await startTestServer();
    const job = await server.post<Job>('/jobs', { name: 'Too many' });
    ({ id } = await server.add(job.id, 'frame.jpg', await readFile(FRAME)));
    await server.until(job.id, id, ({ state }) => state === 'ready');
  });
  afterAll(() => server.close());

  const order = (longest: number): Promise<Delivery> =>
    server.post<Delivery>(`/pictures/${id}/deliveries`, {
      ...{ format: 'png', quality: 90, depth: 16, size: { kind: 'pixels', longest } },
    });
  const stop = (delivery: Delivery): Promise<Response> =>
    fetch(`${server.address()}/api/deliveries/${delivery.id}/stop`, { method: 'POST' });

  async function until(delivery: Delivery, states: readonly DeliveryState[]): Promise<DeliveryState> {
    for (let k = 0; k < 600; k++) {
      const all = await server.get<Delivery[]>(`/pictures/${id}/deliveries`);
      const state = all.find((one) => one.id === delivery.id)?.state;
      if (state && states.includes(state)) return state;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
    throw new Error(`the delivery did not come to be ${states.join(' or ')}`);
  }

  it('are stopped while they wait and while they are made; the others go on, and no part of them stays', async () => {
    const huge = [await order(13_000), await order(13_001), await order(13_002)];
    const small = await order(300);
    await until(huge[0], ['running']);
    for (const delivery of huge) expect((await stop(delivery)).status).toBe(204);
    for (const delivery of huge) expect(await until(delivery, ['stopped', 'done'])).toBe('stopped');
    expect(await until(small, ['done', 'failed'])).toBe('done');
    // Stopping what has ended changes nothing.
    expect((await stop(small)).status).toBe(204);
    expect(await until(small, ['done', 'stopped'])).toBe('done');
    await new Promise((resolve) => setTimeout(resolve, 1500));
    expect(await readdir(join(server.config.storeFolder, 'passing'))).toEqual([]);
    expect(await readdir(join(server.config.storeFolder, 'deliveries'))).toHaveLength(1);
  });

  it('beyond what is made are refused when they are ordered', async () => {
    const refused = await server.refusal(`/pictures/${id}/deliveries`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({
        format: 'png',
        quality: 90,
        depth: 8,
        size: { kind: 'pixels', longest: 60_000 },
      }),
    });
    expect(refused).toMatchObject({ status: 413 });
    expect(refused.detail).toMatch(/megapixels is beyond/);
  });
});
