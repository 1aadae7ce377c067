import type { WorkKind } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

/**
 * Counts an attempt at a piece of work before it begins: one that ends the whole process is not there to count itself.
 *
 * @returns how many there were, this one included
 */
export async function countAttempt(database: Database, kind: WorkKind, id: string): Promise<number> {
  const [{ attempts }]: { attempts: number }[] = await database('work_attempts')
    .insert({ kind, id, attempts: 1 })
    .onConflict(['kind', 'id'])
    .merge({ attempts: database.raw('work_attempts.attempts + 1') })
    .returning('attempts');
  return attempts;
}

/** Forgets what was tried: it is done, given up, or asked for anew. */
export async function forgetAttempts(database: Database, kind: WorkKind, id: string): Promise<void> {
  await database('work_attempts').where({ kind, id }).delete();
}
