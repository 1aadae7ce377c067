import type { WorkKind } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

/** What earlier attempts at a piece of work say of it. */
export interface Attempts {
  /** How often it failed and said so. */
  readonly failures: number;
  /**
   * How much it is suspected of ending the servers it was under way on: 1 for each that ended while it was at nothing else,
   * a share of that where it was at more.
   */
  readonly suspicion: number;
}

interface AttemptRow extends Attempts {
  readonly server: string | null;
}

/** Shares the end of a server out over all that was under way on it. */
async function suspectAllOn(database: Database, server: string): Promise<void> {
  await database.raw(
    `update work_attempts set server = null, suspicion = suspicion + 1.0 / (
       select greatest(1, count(*)) from work_attempts as beside where beside.server = ?)
     where server = ?`,
    [server, server],
  );
}

/**
 * Notes that an attempt begins, before it does: one that ends the whole process is not there to say so. Whoever calls holds
 * the lock of the work, so an earlier attempt that never ended was cut off with its server.
 *
 * @param server the id of this server while it runs
 */
export async function beginAttempt(
  database: Database,
  kind: WorkKind,
  id: string,
  server: string,
): Promise<Attempts> {
  const where = { kind, id };
  const before = await database<AttemptRow>('work_attempts').where(where).first('server');
  if (before?.server) await suspectAllOn(database, before.server);
  const [row]: AttemptRow[] = await database('work_attempts')
    .insert({ ...where, server })
    .onConflict(['kind', 'id'])
    .merge({ server })
    .returning(['failures', 'suspicion']);
  return row;
}

/** Notes that an attempt failed. @returns how many did */
export async function countFailure(database: Database, kind: WorkKind, id: string): Promise<number> {
  const [row]: AttemptRow[] = await database('work_attempts')
    .where({ kind, id })
    .update({ server: null, failures: database.raw('failures + 1') })
    .returning('failures');
  return row?.failures ?? 1;
}

/** Notes that an attempt was cut off by something that is not its doing. */
export async function excuseAttempt(database: Database, kind: WorkKind, id: string): Promise<void> {
  await database('work_attempts').where({ kind, id }).update({ server: null });
}

/** Forgets what was tried: it is done, given up, or asked for anew. */
export async function forgetAttempts(database: Database, kind: WorkKind, id: string): Promise<void> {
  await database('work_attempts').where({ kind, id }).delete();
}
