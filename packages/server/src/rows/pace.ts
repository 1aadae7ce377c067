import type { Pace } from '@fennip/core/estimate';
import { GUESSED_PACE } from '@fennip/core/estimate';
import type { Database } from '../database/connect.ts';

/** A pause longer than this between two steps is no work, in seconds. */
export const PAUSE_SECONDS = 60;
/** So many steps, or faults, must be behind a pace before it stands for the guess. */
const ENOUGH = 20;
/** The pace is that of the latest steps. */
const LATEST = 2000;

/** How fast faults were settled in earlier rounds, on all pictures; guessed until there were enough. */
export async function ownPace(database: Database): Promise<Pace> {
  const {
    rows: [row],
  } = (await database.raw(
    `with steps as (
       select seconds, faults from (
         select at,
           extract(epoch from at - lag(at) over (partition by picture_id order by seq)) as seconds,
           (select count(*) from jsonb_array_elements(forward) as step
             where (step->>'op' = 'judge' and step->>'as' <> 'open')
                or (step->>'op' = 'put' and jsonb_exists(step->'mend', 'fault'))) as faults
         from history where not undone
         order by at desc limit ?
       ) as timed where seconds <= ? and faults > 0)
     select
       (select percentile_cont(0.5) within group (order by seconds) from steps where faults = 1) as by_hand,
       (select count(*) from steps where faults = 1) as single,
       (select sum(seconds) / sum(faults) from steps where faults > 1) as automatic,
       (select coalesce(sum(faults), 0) from steps where faults > 1) as many`,
    [LATEST, PAUSE_SECONDS],
  )) as { rows: Record<'by_hand' | 'single' | 'automatic' | 'many', string | number | null>[] };
  const isKnown = Number(row.single) >= ENOUGH;
  return {
    byHand: isKnown ? Number(row.by_hand) : GUESSED_PACE.byHand,
    automatic: Number(row.many) >= ENOUGH ? Number(row.automatic) : GUESSED_PACE.automatic,
    isGuess: !isKnown,
  };
}
