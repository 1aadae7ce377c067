import type { WorkKind } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { orderStage } from '../runs/runs.ts';

/** What waits for background work or is under way, by the rows of the pictures and deliveries. */
async function unfinishedWork({ database }: Context): Promise<[WorkKind, string[]][]> {
  const pictures = database('pictures');
  return [
    ['prepare', await pictures.clone().where('state', 'preparing').pluck('id')],
    ['examine', await pictures.clone().whereIn('examined', ['waiting', 'running']).pluck('id')],
    ['check', await pictures.clone().whereIn('checked', ['waiting', 'running']).pluck('id')],
    [
      'deliver',
      await database('deliveries').whereIn('state', ['waiting', 'running']).whereNull('piece').pluck('id'),
    ],
  ];
}

/**
 * Orders again the work on pictures that nobody is at: a server that was at it died, or the database went away between
 * what was asked for and its order.
 */
export async function resumePictures(context: Context): Promise<void> {
  const { queue } = context;
  for (const [kind, ids] of await unfinishedWork(context))
    for (const id of ids) if (!(await queue.isBeingDone(kind, id))) await queue.orderAgain(kind, id);
}

/** Orders again what was under way when the last server stopped. Work that another server is at is left to it. */
export async function resumeWork(context: Context): Promise<void> {
  await resumePictures(context);
  const running: string[] = await context.database('runs').where('state', 'running').pluck('id');
  for (const id of running) await orderStage(context, id);
}

/** Puts aside files that no row names, and says so, as of named ones that are missing. */
export async function tidyStore({ database, store, log }: Context): Promise<void> {
  const [originals, deliveries]: [string[], string[]] = await Promise.all([
    database('all_pictures').pluck('sha256'),
    database('deliveries').whereNotNull('sha256').pluck('sha256'),
  ]);
  const { missing, binned } = await store.tidy({
    originals: new Set(originals),
    deliveries: new Set(deliveries),
  });
  for (const file of missing) log.error({ file }, 'a file that the database names is missing from the store');
  for (const file of binned)
    log.warn({ file }, 'a file that nothing names was put into the bin of the store');
}
