import type { Database } from '../database/connect.ts';

/** The space of numbers under which PostgreSQL's advisory locks know contents. */
const LOCK_SPACE = 0x6673;

/**
 * Does something that no other server may do with the same content meanwhile: naming it in a row and giving the file its
 * name, or seeing that no row names it and taking the file away.
 *
 * @param sha256 of the content
 * @param work in the transaction that holds the lock
 */
export function withContent<T>(
  database: Database,
  sha256: string,
  work: (change: Database) => Promise<T>,
): Promise<T> {
  return database.transaction(async (change) => {
    await change.raw('select pg_advisory_xact_lock(?, hashtext(?))', [LOCK_SPACE, sha256]);
    return work(change);
  });
}
