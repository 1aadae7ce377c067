import { randomUUID } from 'node:crypto';
import pg from 'pg';
import type { Logger } from 'pino';
import type { JobEvent } from '@fennip/contract';
import type { EventHub } from './eventHub.ts';

const CHANNEL = 'fennip_events';
/** PostgreSQL takes notices up to 8000 bytes. */
const MOST_BYTES = 7500;
const RETRY_MS = 1000;

interface Notice {
  readonly from: string;
  readonly jobId: string;
  readonly event: JobEvent;
}

/** A hub whose events reach everyone who watches on any server of the same database. */
export interface BridgedHub {
  readonly hub: EventHub;
  stop(): Promise<void>;
}

/**
 * Lets hubs of several processes hear one another, through PostgreSQL's notices. An event that is lost while the line is
 * down is no harm: pages ask anew for what they show.
 */
export async function bridgeEvents(url: string, own: EventHub, log: Logger): Promise<BridgedHub> {
  const self = randomUUID();
  let client: pg.Client | null = null;
  let isStopped = false;
  let sending: Promise<void> = Promise.resolve();

  let isRetrying = false;

  /** Listens again after a moment: once, whatever says that the line is down. */
  function retry(line: pg.Client): void {
    if (client === line) client = null;
    void line.end().catch(() => undefined);
    if (isStopped || isRetrying) return;
    isRetrying = true;
    setTimeout(() => {
      isRetrying = false;
      if (!isStopped && client === null) listen().catch(() => undefined);
    }, RETRY_MS);
  }

  async function listen(): Promise<void> {
    const line = new pg.Client({ connectionString: url, keepAlive: true });
    line.on('notification', ({ payload }) => {
      const notice = JSON.parse(payload ?? '{}') as Notice;
      if (client === line && notice.from !== self) own.publish(notice.jobId, notice.event);
    });
    line.on('error', (error) => {
      log.warn({ err: error }, 'the line that events travel on broke');
      retry(line);
    });
    try {
      await line.connect();
      await line.query(`listen ${CHANNEL}`);
    } catch (error) {
      retry(line);
      throw error;
    }
    client = line;
  }

  await listen();
  return {
    hub: {
      ...own,
      publish: (jobId, event) => {
        own.publish(jobId, event);
        const payload = JSON.stringify({ from: self, jobId, event } satisfies Notice);
        if (Buffer.byteLength(payload) > MOST_BYTES) return;
        // One after the other: a line takes one query at a time.
        sending = sending.then(() =>
          client?.query('select pg_notify($1, $2)', [CHANNEL, payload]).then(
            () => undefined,
            () => undefined,
          ),
        );
      },
    },
    stop: async () => {
      isStopped = true;
      await sending;
      await client?.end().catch(() => undefined);
    },
  };
}
