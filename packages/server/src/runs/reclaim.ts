import type { Context } from '../context/context.ts';
import { pieceKey } from './runs.ts';

/** Orders anew every piece of a running run that nobody is at although it was begun or should have been. */
export async function reclaimPieces({ database, queue }: Context): Promise<void> {
  const rows: { run_id: string; number: number }[] = await database('run_pieces')
    .join('runs', 'runs.id', 'run_pieces.run_id')
    .where('runs.state', 'running')
    .where('run_pieces.state', 'running')
    .select('run_id', 'number');
  for (const { run_id, number } of rows) {
    const key = pieceKey(run_id, number);
    if (!(await queue.isBeingDone('piece', key))) await queue.orderAgain('piece', key);
  }
  await orderNextOfIdle({ database, queue });
}

/**
 * A worker that dies between taking an order and beginning its piece leaves one that waits and that nobody is told of.
 * Where nothing of a run is under way, the first that waits of its stage is ordered again: if it was not lost, it is
 * done once all the same.
 */
async function orderNextOfIdle({ database, queue }: Pick<Context, 'database' | 'queue'>): Promise<void> {
  const idle: { run_id: string; number: number }[] = await database('run_pieces')
    .join('runs', 'runs.id', 'run_pieces.run_id')
    .where('runs.state', 'running')
    .where('run_pieces.state', 'waiting')
    .whereNotExists((others) =>
      others.from('run_pieces as other').whereRaw("other.run_id = runs.id and other.state = 'running'"),
    )
    .distinctOn('run_id')
    .orderBy(['run_id', 'stage', 'number'])
    .select('run_id', 'number');
  for (const { run_id, number } of idle) {
    const key = pieceKey(run_id, number);
    if (!(await queue.isBeingDone('piece', key))) await queue.orderAgain('piece', key);
  }
}
