import type { WorkKind } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

/** How many are kept. */
const MOST_FAILURES = 500;

export interface FailureRow {
  readonly kind: WorkKind;
  readonly id: string;
  /** A packed sentence. */
  readonly reason: string;
  readonly at: Date;
}

/** Keeps why a piece of work was given up, for whoever runs the place. */
export async function noteFailure(
  database: Database,
  kind: WorkKind,
  id: string,
  reason: string,
): Promise<void> {
  const [{ number }]: { number: string }[] = await database('work_failures')
    .insert({ kind, id, reason })
    .returning('number');
  await database('work_failures')
    .where('number', '<=', Number(number) - MOST_FAILURES)
    .delete();
}

/** The last pieces of work that were given up, the newest first. */
export const lastFailures = (database: Database, most: number): Promise<FailureRow[]> =>
  database<FailureRow>('work_failures').orderBy('number', 'desc').limit(most);
