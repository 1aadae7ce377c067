import { constants } from 'node:fs';
import { access } from 'node:fs/promises';
import type { Readiness } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { queueDepths } from './queueDepth.ts';

const holds = (work: Promise<unknown>): Promise<boolean> =>
  work.then(
    () => true,
    () => false,
  );

/** What a server needs to do its work, and whether it has it. */
export async function readinessOf({ database, store }: Context): Promise<Readiness> {
  const [hasDatabase, hasQueue, hasStore, hasRoom] = await Promise.all([
    holds(database.raw('select 1')),
    holds(queueDepths(database)),
    holds(access(store.folder, constants.R_OK | constants.W_OK)),
    holds(store.checkRoom(1)),
  ]);
  const parts = { database: hasDatabase, queue: hasQueue, store: hasStore, room: hasRoom };
  return { ready: Object.values(parts).every(Boolean), ...parts };
}
