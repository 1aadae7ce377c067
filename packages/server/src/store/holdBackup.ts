import pg from 'pg';
import type { Database } from '../database/connect.ts';

/** The number under which PostgreSQL's advisory locks know that a backup is being made. */
const BACKUP_LOCK = 0x6662;

/** Does something while no server takes a file away for good. @throws Error where another backup is being made */
export async function holdBackup<T>(url: string, work: () => Promise<T>): Promise<T> {
  const line = new pg.Client({ connectionString: url });
  await line.connect();
  try {
    const { rows } = await line.query<{ mine: boolean }>('select pg_try_advisory_lock($1) as mine', [
      BACKUP_LOCK,
    ]);
    if (!rows[0].mine) throw new Error('another backup is being made, or a file is just being taken away');
    return await work();
  } finally {
    await line.end();
  }
}

/** True in a transaction that may take files away: no backup is being made, and none begins before it ends. */
export async function mayTakeAway(change: Database): Promise<boolean> {
  const { rows } = await change.raw('select pg_try_advisory_xact_lock_shared(?) as mine', [BACKUP_LOCK]);
  return Boolean(rows[0].mine);
}
