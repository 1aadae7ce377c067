import type { ChartedState } from '@fennip/contract';
import type { Database } from '../database/connect.ts';

/** What became of the places of its charts in all pictures of a job. */
export async function chartedStates(database: Database, jobId: string): Promise<ChartedState[]> {
  const rows: ChartedState[] = await database('faults')
    .join('pictures', 'pictures.id', 'faults.picture_id')
    .leftJoin('mends', (on) =>
      on
        .on('mends.picture_id', 'faults.picture_id')
        .andOn('mends.fault_id', 'faults.id')
        .andOn(database.raw(`(mends.body->>'on')::boolean`)),
    )
    .where('pictures.job_id', jobId)
    .whereNotNull('faults.charted')
    .orderBy([{ column: 'pictures.position' }, { column: 'faults.charted' }])
    .select({
      pictureId: 'faults.picture_id',
      place: 'faults.charted',
      fault: 'faults.id',
      state: database.raw(
        `case when mends.id is null then faults.judgement
              when (mends.body->>'share')::float < 1 then 'lessened' else 'mended' end`,
      ),
    });
  return rows;
}
