import type { FaultState } from '@fennip/core/ledger';
import type { Knex } from 'knex';

/** A fault of a picture and what became of it. */
export interface FaultStateRow {
  readonly picture_id: string;
  readonly id: string;
  /** Its number on the dust chart. */
  readonly charted: number | null;
  readonly state: FaultState;
}

/**
 * A query of faults with what became of each, as `fault_states`. It says in SQL what core's `faultState` and
 * `mendsByFault` say, for questions over many pictures; a test holds the two against each other.
 */
export const faultStates = (database: Knex) =>
  database<FaultStateRow, FaultStateRow[]>(
    database
      .from('faults as f')
      .joinRaw(
        `left join lateral (
           select (m.body->>'share')::float as share from mends m
           where m.picture_id = f.picture_id and m.fault_id = f.id and (m.body->>'on')::boolean
           order by m.position desc limit 1
         ) as answer on true`,
      )
      .select(
        'f.picture_id',
        'f.id',
        'f.charted',
        database.raw(
          `case when answer.share is null then f.judgement
                when answer.share < 1 then 'lessened' else 'mended' end as state`,
        ),
      )
      .as('fault_states'),
  );
