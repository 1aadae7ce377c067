import type { WorkKind } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

/** How much of one kind of background work there is. */
export interface QueueDepth {
  readonly kind: WorkKind;
  readonly waiting: number;
  readonly underWay: number;
  /** How long the first of those that wait has waited, in seconds. */
  readonly oldestSeconds: number;
}

/** Orders of background work that were not ended, by kind. Those put off to a later time do not wait. */
export async function queueDepths(database: Database): Promise<QueueDepth[]> {
  const { rows } = (await database.raw(
    `select name, count(*) filter (where state = 'created' and start_after <= now()) as waiting,
       count(*) filter (where state = 'active') as active,
       coalesce(max(extract(epoch from now() - created_on))
         filter (where state = 'created' and start_after <= now()), 0) as oldest
     from queue.job where state < 'completed' group by name order by name`,
  )) as { rows: { name: string; waiting: string; active: string; oldest: string }[] };
  const kinds: readonly string[] = ['prepare', 'examine', 'check', 'deliver', 'piece'];
  return rows
    .filter(({ name }) => kinds.includes(name))
    .map(({ name, waiting, active, oldest }) => ({
      kind: name as WorkKind,
      waiting: Number(waiting),
      underWay: Number(active),
      oldestSeconds: Math.round(Number(oldest)),
    }));
}
