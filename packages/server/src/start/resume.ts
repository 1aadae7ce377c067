import type { Context } from '../context/context.ts';
import { orderStage } from '../runs/runs.ts';

/** Orders anew what was under way when the last server stopped. Work that another server is at is left to it. */
export async function resumeWork(context: Context): Promise<void> {
  const { database, queue } = context;
  const preparing: string[] = await database('pictures').where('state', 'preparing').pluck('id');
  const examining: string[] = await database('pictures')
    .whereIn('examined', ['waiting', 'running'])
    .pluck('id');
  const checking: string[] = await database('pictures')
    .whereIn('checked', ['waiting', 'running'])
    .pluck('id');
  const delivering: string[] = await database('deliveries')
    .whereIn('state', ['waiting', 'running'])
    .whereNull('piece')
    .pluck('id');
  for (const id of preparing) await queue.order('prepare', id);
  for (const id of examining) await queue.order('examine', id);
  for (const id of checking) await queue.order('check', id);
  for (const id of delivering) await queue.order('deliver', id);
  const running: string[] = await database('runs').where('state', 'running').pluck('id');
  for (const id of running) await orderStage(context, id);
}

/** Removes files that no row names, and says which named ones are missing. */
export async function tidyStore({ database, store, log }: Context): Promise<void> {
  const [originals, deliveries]: [string[], string[]] = await Promise.all([
    database('pictures').pluck('sha256'),
    database('deliveries').whereNotNull('sha256').pluck('sha256'),
  ]);
  const missing = await store.tidy({ originals: new Set(originals), deliveries: new Set(deliveries) });
  for (const file of missing) log.error({ file }, 'a file that the database names is missing from the store');
}
