import type { Said } from '@fennip/words';
import { packed } from '@fennip/words';
import type { Leftover } from '@fennip/core/check';
import { isSameFault, tellLeftovers } from '@fennip/core/check';
import { EXAMINE_DEFAULTS, decideFindings } from '@fennip/core/examine';
import type { Context } from '../context/context.ts';
import type { Database } from '../database/connect.ts';
import { readRecipe } from '../rows/worksheetRows.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { publishPicture } from '../events/publishPicture.ts';
import type { FaultRow } from '../rows/faultRows.ts';
import { asFaultRow, faultsOf } from '../rows/faultRows.ts';
import { findingsOf } from '../rows/findingRows.ts';
import { asLearned } from './learned.ts';
import { measurePicture } from './measurePicture.ts';

/** Orders the examination of a picture as it is mended now. */
export async function orderCheck(context: Context, id: string): Promise<void> {
  await pictureRow(context.database, id);
  await context.database('pictures').where('id', id).update({ checked: 'waiting', examine_problem: null });
  await context.queue.order('check', id);
  await publishPicture(context, id);
}

/** What the mended picture still shows, or shows anew. */
async function leftoversOf(context: Context, row: PictureRow): Promise<Leftover[]> {
  const { database } = context;
  // With the finish on it: what a strong tone brings out is what will be seen.
  const recipe = await readRecipe(database, row);
  const { marked, faults } = await faultsOf(database, row.id);
  const measured = (await findingsOf(database, row)) ?? [];
  const found = await measurePicture(context, row, { work: 'check', recipe });
  const listed = decideFindings(
    await asLearned(database, row, found),
    row.examine_request ?? EXAMINE_DEFAULTS,
    row,
  );
  return tellLeftovers(
    listed,
    [...measured, ...faults.filter(({ origin }) => !origin), ...marked],
    recipe.mends,
  );
}

/**
 * Puts leftovers in the place of those that an earlier check found, except those that were decided about or mended:
 * these stay, and are not found a second time.
 */
async function replaceLeftovers(
  database: Database,
  pictureId: string,
  leftovers: readonly Leftover[],
): Promise<void> {
  await database.transaction(async (change) => {
    const picture: { next_fault: number } | undefined = await change('pictures')
      .where('id', pictureId)
      .forUpdate()
      .first('next_fault');
    if (!picture) return;
    const earlier = change<FaultRow>('faults')
      .where('picture_id', pictureId)
      .whereIn('origin', ['left over', 'made by a mend']);
    await earlier
      .clone()
      .where('judgement', 'open')
      .whereNull('own_kind')
      .whereNotExists((mends) =>
        mends.from('mends').whereRaw('mends.picture_id = faults.picture_id and mends.fault_id = faults.id'),
      )
      .delete();
    const kept: FaultRow[] = await earlier;
    const fresh = leftovers.filter((fault) => !kept.some((row) => isSameFault(fault, row)));
    const first = picture.next_fault;
    const rows = fresh.map((fault, k) => ({
      ...asFaultRow({ ...fault, id: `l${first + k}`, number: first + k }, fault.origin),
      picture_id: pictureId,
    }));
    await change.batchInsert('faults', rows, 1000);
    await change('pictures')
      .where('id', pictureId)
      .update({ next_fault: first + fresh.length });
  });
}

/** Notes that a picture was checked; where it was ordered anew meanwhile that waits on. */
async function noteDone(context: Context, id: string): Promise<void> {
  await context.database('pictures').where({ id, checked: 'running' }).update({ checked: 'done' });
  await publishPicture(context, id);
}

/** Notes that a picture will not be checked, and why. */
export async function giveUpChecking(
  { database, ...context }: Context,
  id: string,
  reason: Said,
): Promise<void> {
  await database('pictures')
    .where('id', id)
    .whereIn('checked', ['waiting', 'running'])
    .update({ checked: 'failed', examine_problem: packed(reason) });
  await publishPicture({ database, ...context }, id);
}

/** Examines a picture as it is mended and finished; what is found where a mend lies goes to its ledger. */
export async function checkMended(context: Context, id: string): Promise<void> {
  const { database } = context;
  const row = await database<PictureRow>('pictures').where('id', id).first();
  if (row?.checked !== 'waiting' && row?.checked !== 'running') return;
  await database('pictures').where('id', id).update({ checked: 'running' });
  await publishPicture(context, id);
  await replaceLeftovers(database, id, await leftoversOf(context, row as PictureRow));
  await noteDone(context, id);
}
