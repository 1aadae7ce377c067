import { randomUUID } from 'node:crypto';
import { availableParallelism } from 'node:os';
import PgBoss from 'pg-boss';
import type { Logger } from 'pino';
import type { WorkKind } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { carryOut } from './carryOut.ts';
import { forgetAttempts } from './attempts.ts';
import type { Work, Works } from './work.ts';
import { openWorkLocks } from './workLocks.ts';

/** Background work, kept in the database: it survives a restart, and several servers can share it. */
export interface Queue {
  /** Orders work that a person asked for: whatever was tried before does not count. What waits already is not ordered twice. */
  order(work: WorkKind, id: string): Promise<void>;
  /** Orders work that was lost on its way; what was tried before counts. */
  orderAgain(work: WorkKind, id: string): Promise<void>;
  /** Starts taking work of the kinds that are named. */
  serve(works: Works): Promise<void>;
  /** True while some server or worker is at a piece of work. */
  isBeingDone(work: WorkKind, id: string): Promise<boolean>;
  close(): Promise<void>;
}

interface Order {
  readonly id: string;
}

const KINDS: readonly WorkKind[] = ['prepare', 'examine', 'check', 'deliver', 'piece'];
/**
 * Pieces of a run are each done in one thread, so as many as the machine has threads are taken up at once. Of the others
 * two: something small goes past something huge.
 */
const AT_ONCE: Readonly<Partial<Record<WorkKind, number>>> = {
  piece: availableParallelism(),
  prepare: 2,
  deliver: 2,
};
/** How often the queue looks for new work, in milliseconds; orders from this server are taken up at once. */
const POLLING_MS = 500;
/** Work that another server is at is looked at again after so many seconds. */
const BUSY_SECONDS = 2;
/** What is under way may end for so long while the queue closes, in milliseconds. */
const CLOSING_MS = 5000;

/** Something that can be woken while it waits. */
interface Pause {
  wait(): Promise<void>;
  wake(): void;
}

function createPause(ms: number): Pause {
  let wake = (): void => undefined;
  return {
    wait: () =>
      new Promise((resolve) => {
        const timer = setTimeout(resolve, ms);
        wake = () => {
          clearTimeout(timer);
          resolve();
        };
      }),
    wake: () => wake(),
  };
}

export async function openQueue(url: string, database: Database, log: Logger): Promise<Queue> {
  const boss = new PgBoss({ connectionString: url, schema: 'queue', max: 4 });
  boss.on('error', (error) => log.error({ err: error }, 'queue'));
  await boss.start();
  // Tried again by `carryOut`, which knows what may pass; one order of each piece of work waits at a time.
  const manner = { retryLimit: 0, expireInSeconds: 23 * 3600, policy: 'short' as const };
  for (const kind of KINDS) {
    await boss.createQueue(kind, { name: kind, ...manner });
    await boss.updateQueue(kind, { name: kind, ...manner });
  }
  const server = randomUUID();
  const locks = openWorkLocks(url, log);
  const pauses = new Map<WorkKind, Pause>();
  const loops: Promise<void>[] = [];
  const underWay = new Set<Promise<void>>();
  let isClosing = false;

  const send = async (kind: WorkKind, id: string, startAfter = 0): Promise<void> => {
    await boss.send(kind, { id }, { singletonKey: id, ...(startAfter > 0 ? { startAfter } : {}) });
    if (startAfter === 0) pauses.get(kind)?.wake();
  };

  /** Does one piece of work, unless a server is at it. Never throws: what went wrong is noted and logged. */
  async function doOne(kind: WorkKind, work: Work, id: string): Promise<void> {
    const key = `${kind} ${id}`;
    try {
      if (!(await locks.take(key))) {
        await send(kind, id, BUSY_SECONDS);
        return;
      }
      try {
        const again = await carryOut({ database, log, server, isClosing: () => isClosing }, kind, id, work);
        if (again !== null) await send(kind, id, again);
      } finally {
        await locks.release(key);
      }
    } catch (error) {
      // The database is away: whoever looks for lost work orders it again.
      log.warn({ err: error, kind, id }, 'background work was lost on its way');
    }
  }

  /** Takes work of a kind, at most so much at once, until the queue closes. */
  async function takeWork(kind: WorkKind, work: Work): Promise<void> {
    const most = AT_ONCE[kind] ?? 1;
    const pause = createPause(POLLING_MS);
    pauses.set(kind, pause);
    let busy = 0;
    while (!isClosing) {
      const orders =
        busy < most
          ? await boss.fetch<Order>(kind, { batchSize: most - busy }).catch((error: unknown) => {
              log.warn({ err: error, kind }, 'the queue does not answer');
              return [];
            })
          : [];
      for (const { id: order, data } of orders) {
        busy++;
        const one = doOne(kind, work, data.id)
          .then(() => boss.complete(kind, order))
          .catch((error: unknown) => log.warn({ err: error, kind }, 'an order could not be ended'))
          .then(() => {
            busy--;
            underWay.delete(one);
            pause.wake();
          });
        underWay.add(one);
      }
      if (orders.length === 0 && !isClosing) await pause.wait();
    }
  }

  return {
    order: async (kind, id) => {
      await forgetAttempts(database, kind, id);
      await send(kind, id);
    },
    orderAgain: (kind, id) => send(kind, id),
    serve: async (works) => {
      for (const kind of KINDS) {
        const work = works[kind];
        if (work) loops.push(takeWork(kind, work));
      }
      return Promise.resolve();
    },
    isBeingDone: (kind, id) => locks.isTaken(`${kind} ${id}`),
    close: async () => {
      isClosing = true;
      for (const pause of pauses.values()) pause.wake();
      await Promise.all(loops);
      const cut = new Promise<void>((resolve) => setTimeout(resolve, CLOSING_MS).unref());
      await Promise.race([Promise.all(underWay), cut]);
      await boss.stop({ graceful: false, close: true });
      await locks.close();
    },
  };
}
