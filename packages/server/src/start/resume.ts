import type { WorkKind } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import { orderStage } from '../runs/runs.ts';

/** What waits for background work or is under way, by the rows of pictures and deliveries, and has no order that waits. */
async function unorderedWork({ database }: Context): Promise<[WorkKind, string[]][]> {
  const unordered = (table: 'pictures' | 'deliveries', kind: WorkKind) =>
    // As the queue's own index of waiting orders has it: of thousands that wait none is looked at one by one.
    database(table).whereRaw(
      `not exists (select from queue.job where name = ? and state = 'created' and policy = 'short'
         and coalesce(singleton_key, '') = ${table}.id::text)`,
      [kind],
    );
  const underWay = ['waiting', 'running'];
  return [
    ['prepare', await unordered('pictures', 'prepare').where('state', 'preparing').pluck('id')],
    ['examine', await unordered('pictures', 'examine').whereIn('examined', underWay).pluck('id')],
    ['check', await unordered('pictures', 'check').whereIn('checked', underWay).pluck('id')],
    [
      'deliver',
      await unordered('deliveries', 'deliver').whereIn('state', underWay).whereNull('piece').pluck('id'),
    ],
  ];
}

/**
 * Orders again the work on pictures that nobody is at: a server that was at it died, or the database went away between
 * what was asked for and its order.
 */
export async function resumePictures(context: Context): Promise<void> {
  const { queue } = context;
  for (const [kind, ids] of await unorderedWork(context))
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
