import { statfs } from 'node:fs/promises';
import type { RequestHandler } from 'express';
import { Gauge, Histogram, Registry, collectDefaultMetrics } from 'prom-client';
import type { Context } from '../context/context.ts';
import { queueDepths } from './queueDepth.ts';

/** What a server measures of itself, as Prometheus reads it. */
export interface Metrics {
  /** Measures each request by its route, not by its address. */
  readonly measure: RequestHandler;
  /** All figures in the text format of Prometheus. */
  text(): Promise<string>;
  readonly contentType: string;
}

/** Seconds; a tile takes a millisecond, a report a minute. */
const BUCKETS = [0.005, 0.02, 0.08, 0.3, 1, 5, 20, 60];

export function createMetrics({ database, store, gate }: Context): Metrics {
  const registers = [new Registry()];
  collectDefaultMetrics({ register: registers[0] });
  const requests = new Histogram({
    ...{ name: 'fennip_request_seconds', help: 'How long requests take.', registers, buckets: BUCKETS },
    labelNames: ['method', 'route', 'status'] as const,
  });
  const labelNames = ['kind'] as const;
  const age = new Gauge({
    ...{
      name: 'fennip_queue_oldest_seconds',
      help: 'How long the oldest work has waited.',
      registers,
      labelNames,
    },
  });
  new Gauge({
    ...{ name: 'fennip_queue_waiting', help: 'Background work that waits.', registers, labelNames },
    async collect() {
      this.reset();
      age.reset();
      for (const { kind, waiting, oldestSeconds } of await queueDepths(database).catch(() => [])) {
        this.set({ kind }, waiting);
        age.set({ kind }, oldestSeconds);
      }
    },
  });
  new Gauge({
    ...{ name: 'fennip_pixels_in_work', help: 'Pixels of pictures that are held whole.', registers },
    collect() {
      this.set(gate.inWork);
    },
  });
  new Gauge({
    ...{ name: 'fennip_store_free_bytes', help: 'Room on the disk of the store.', registers },
    async collect() {
      const { bavail, bsize } = await statfs(store.folder);
      this.set(bavail * bsize);
    },
  });
  return {
    measure: (request, response, next) => {
      const done = requests.startTimer({ method: request.method });
      response.once('finish', () => {
        const { path: route = 'none' } = (request.route ?? {}) as { path?: string };
        done({ route: String(route), status: String(response.statusCode) });
      });
      next();
    },
    text: () => registers[0].metrics(),
    contentType: registers[0].contentType,
  };
}
