import { availableParallelism } from 'node:os';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { WorkKind } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

/** Background work, kept in the database: it survives a restart, and several servers can share it. */
export interface Queue {
  order(work: WorkKind, id: string): Promise<void>;
  /** Starts taking work of the kinds that are named. */
  serve(handlers: Readonly<Partial<Record<WorkKind, (id: string) => Promise<void>>>>): Promise<void>;
  /** Whether some server or worker is at a piece of work now. */
  isBeingDone(work: WorkKind, id: string): Promise<boolean>;
  close(): Promise<void>;
}

interface Order {
  readonly id: string;
}

const KINDS: readonly WorkKind[] = ['prepare', 'examine', 'check', 'deliver', 'piece'];
/** Pieces of a run are each done in one thread, so as many as the machine has threads are taken up at once. */
const AT_ONCE: Readonly<Partial<Record<WorkKind, number>>> = { piece: availableParallelism() };
/** How often the queue looks for new work, in seconds; orders from this server are taken up at once. */
const POLLING_SECONDS = 0.5;

/** The number under which PostgreSQL's advisory locks know a piece of work. */
const LOCK_SPACE = 0x666e;

/**
 * Carries out a piece of work unless some server is at it already. A server that dies lets go of its lock, and the
 * work, ordered anew at the next start, is done by another.
 */
async function alone(database: Database, key: string, run: () => Promise<void>): Promise<void> {
  await database.transaction(async (holder) => {
    const answer = await holder.raw('select pg_try_advisory_xact_lock(?, hashtext(?)) as mine', [
      LOCK_SPACE,
      key,
    ]);
    if (answer.rows[0].mine) await run();
  });
}

export async function openQueue(url: string, database: Database, log: Logger): Promise<Queue> {
  const boss = new PgBoss({ connectionString: url, schema: 'queue', max: 4 });
  boss.on('error', (error) => log.error({ error }, 'queue'));
  await boss.start();
  for (const kind of KINDS)
    await boss.createQueue(kind, {
      name: kind,
      retryLimit: 3,
      retryDelay: 1,
      retryBackoff: true,
      expireInSeconds: 3600,
    });
  return {
    order: async (work, id) => {
      await boss.send(work, { id });
    },
    serve: async (handlers) => {
      const workers = KINDS.flatMap((kind) => Array.from({ length: AT_ONCE[kind] ?? 1 }, () => kind));
      for (const kind of workers) {
        const handler = handlers[kind];
        if (!handler) continue;
        await boss.work<Order>(
          kind,
          { batchSize: 1, pollingIntervalSeconds: POLLING_SECONDS },
          async (orders) => {
            for (const { data } of orders) {
              try {
                await alone(database, `${kind} ${data.id}`, () => handler(data.id));
              } catch (error) {
                log.error({ error, kind, id: data.id }, 'background work failed');
                throw error;
              }
            }
          },
        );
      }
    },
    isBeingDone: (kind, id) =>
      database.transaction(async (asker) => {
        const answer = await asker.raw('select pg_try_advisory_xact_lock(?, hashtext(?)) as free', [
          LOCK_SPACE,
          `${kind} ${id}`,
        ]);
        return !answer.rows[0].free;
      }),
    close: () => boss.stop({ graceful: true, timeout: 5000, close: true }),
  };
}
