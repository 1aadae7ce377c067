import type { ChartedState } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { faultStates } from '../rows/faultStates.ts';

/** What became of the places of its charts in all pictures of a job. */
export async function chartedStates(database: Database, jobId: string): Promise<ChartedState[]> {
  const rows: ChartedState[] = await faultStates(database)
    .join('pictures', 'pictures.id', 'fault_states.picture_id')
    .where('pictures.job_id', jobId)
    .whereNotNull('charted')
    .orderBy([{ column: 'pictures.position' }, { column: 'charted' }])
    .select({
      pictureId: 'fault_states.picture_id',
      place: 'charted',
      fault: 'fault_states.id',
      state: 'fault_states.state',
    });
  return rows;
}
