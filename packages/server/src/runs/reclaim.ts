import type { Context } from '../context/context.ts';
import { pieceKey } from './runs.ts';

/** How often it is looked for pieces whose worker died. */
const EVERY_MS = 4000;

/** Orders anew every piece of a running run that nobody is at although it was begun or should have been. */
async function reclaimPieces({ database, queue }: Context): Promise<void> {
  const rows: { run_id: string; number: number }[] = await database('run_pieces')
    .join('runs', 'runs.id', 'run_pieces.run_id')
    .where('runs.state', 'running')
    .where('run_pieces.state', 'running')
    .select('run_id', 'number');
  for (const { run_id, number } of rows) {
    const key = pieceKey(run_id, number);
    if (!(await queue.isBeingDone('piece', key))) await queue.order('piece', key);
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
    if (!(await queue.isBeingDone('piece', key))) await queue.order('piece', key);
  }
}

/** Keeps looking, until it is stopped. A worker that dies lets go of its lock, and so its piece is seen. */
export function keepReclaiming(context: Context): () => void {
  let isLooking = false;
  const timer = setInterval(() => {
    if (isLooking) return;
    isLooking = true;
    reclaimPieces(context)
      .catch((error: unknown) => context.log.warn({ err: error }, 'could not look for lost work'))
      .finally(() => {
        isLooking = false;
      });
  }, EVERY_MS);
  return () => clearInterval(timer);
}
