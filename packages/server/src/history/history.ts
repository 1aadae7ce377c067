import { said } from '@fennip/words';
import type { Edit, Step, Worksheet } from '@fennip/core/recipe';
import { applySteps } from '@fennip/core/recipe';
import type { EditAnswer, HistoryStep } from '@fennip/contract';
import { checkFence, checkFinish, checkMend } from '@fennip/contract/check';
import type { Knex } from 'knex';
import type { Context } from '../context/context.ts';
import { Refusal, notFound } from '../errors/refusal.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { publishPicture } from '../events/publishPicture.ts';
import { readWorksheet, writeDifference } from '../rows/worksheetRows.ts';

interface HistoryRow {
  readonly seq: number;
  readonly words: string;
  readonly forward: Step[];
  readonly inverse: Step[];
  readonly at: Date;
  readonly undone: boolean;
  readonly by: string | null;
}

/** How many steps each way are named to the page; all of them are kept. */
const NAMED_STEPS = 100;

const asStep = ({ seq, words, at, by }: Pick<HistoryRow, 'seq' | 'words' | 'at' | 'by'>): HistoryStep => ({
  ...{ seq, words, at: at.toISOString() },
  ...(by === null ? {} : { by }),
});

/** Where a picture's history stands. */
export async function historyOf(
  database: Knex,
  pictureId: string,
): Promise<Pick<EditAnswer, 'done' | 'undone'>> {
  const named = (undone: boolean, direction: 'asc' | 'desc') =>
    database('history')
      .where({ picture_id: pictureId, undone })
      .orderBy('seq', direction)
      .limit(NAMED_STEPS)
      .select('seq', 'words', 'at', 'by');
  // One after the other: within a transaction they share a line.
  const done: HistoryRow[] = await named(false, 'desc');
  const undone: HistoryRow[] = await named(true, 'asc');
  return { done: done.reverse().map(asStep), undone: undone.map(asStep) };
}

/** Locks a picture for a change that was made on a revision. @throws Refusal when the picture has moved on */
async function lockAt(change: Knex.Transaction, pictureId: string, revision: number): Promise<PictureRow> {
  const row = await change<PictureRow>('pictures').where('id', pictureId).forUpdate().first();
  if (!row) throw notFound('picture');
  if (row.revision !== revision) throw new Refusal('changed meanwhile', said('refused.changedMeanwhile'));
  return row as PictureRow;
}

function refuseBadSteps(steps: readonly Step[], { width, height }: PictureRow): void {
  const picture = { width, height };
  steps.forEach((step, index) => {
    if (step.op === 'put') checkMend(step.mend, picture, `steps/${index}/mend`);
    if (step.op === 'finish') checkFinish(step.step, picture, `steps/${index}/step`);
    if (step.op === 'fence') checkFence(step.fence, picture, `steps/${index}/fence`);
  });
}

/** Refuses decisions about faults that the picture does not have. @throws Refusal */
async function refuseUnknownFaults(
  change: Knex.Transaction,
  pictureId: string,
  { marked }: Worksheet,
  steps: readonly Step[],
): Promise<void> {
  const decided = new Set(
    steps.flatMap((step) => (step.op === 'judge' || step.op === 'name' ? [step.fault] : [])),
  );
  for (const { id } of marked) decided.delete(id);
  for (const step of steps) if (step.op === 'mark') decided.delete(step.fault.id);
  if (decided.size === 0) return;
  const known: string[] = await change('faults')
    .where('picture_id', pictureId)
    .whereIn('id', [...decided])
    .pluck('id');
  if (known.length < decided.size) throw notFound('fault');
}

/** A change to a locked picture: what it does, and what it leaves in the history. */
type Change = (
  change: Knex.Transaction,
  picture: PictureRow,
  before: Worksheet,
) => Promise<{ after: Worksheet; steps: readonly Step[] }>;

/** Carries a change out in one transaction: worksheet, history and revision agree, or nothing changed. */
async function carryOut(
  context: Context,
  pictureId: string,
  revision: number,
  perform: Change,
): Promise<EditAnswer> {
  const answer = await context.database.transaction(async (change): Promise<EditAnswer> => {
    const picture = await lockAt(change, pictureId, revision);
    const before = await readWorksheet(change, picture);
    const { after, steps } = await perform(change, picture, before);
    if (steps.length === 0) return { revision, steps, ...(await historyOf(change, pictureId)) };
    await writeDifference(change, pictureId, before, after);
    await change('pictures')
      .where('id', pictureId)
      .update({ revision: revision + 1 });
    return { revision: revision + 1, steps, ...(await historyOf(change, pictureId)) };
  });
  const { job_id } = await pictureRow(context.database, pictureId);
  context.events.publish(job_id, { type: 'edited', pictureId, revision: answer.revision });
  await publishPicture(context, pictureId);
  return answer;
}

/** Carries out an edit; what was undone before it can no longer be redone. */
export const edit = (
  context: Context,
  pictureId: string,
  revision: number,
  { words, steps }: Edit,
): Promise<EditAnswer> =>
  carryOut(context, pictureId, revision, async (change, picture, before) => {
    refuseBadSteps(steps, picture);
    await refuseUnknownFaults(change, pictureId, before, steps);
    const { worksheet, inverse } = applySteps(before, steps);
    await change('history').where({ picture_id: pictureId, undone: true }).delete();
    const [{ last }] = await change('history').where('picture_id', pictureId).max('seq as last');
    await change('history').insert({
      picture_id: pictureId,
      seq: Number(last ?? 0) + 1,
      words,
      by: context.by,
      forward: JSON.stringify(steps),
      inverse: JSON.stringify(inverse),
    });
    return { after: worksheet, steps };
  });

/** Takes the last step back. Nothing happens when there is none. */
export const undo = (context: Context, pictureId: string, revision: number): Promise<EditAnswer> =>
  turn(context, pictureId, revision, { undone: false, direction: 'desc', steps: 'inverse' });

/** Does the last step that was taken back once more. Nothing happens when there is none. */
export const redo = (context: Context, pictureId: string, revision: number): Promise<EditAnswer> =>
  turn(context, pictureId, revision, { undone: true, direction: 'asc', steps: 'forward' });

interface Turn {
  readonly undone: boolean;
  readonly direction: 'asc' | 'desc';
  readonly steps: 'inverse' | 'forward';
}

const turn = (
  context: Context,
  pictureId: string,
  revision: number,
  { undone, direction, steps }: Turn,
): Promise<EditAnswer> =>
  carryOut(context, pictureId, revision, async (change, _picture, before) => {
    const where = { picture_id: pictureId, undone };
    const row = await change<HistoryRow>('history').where(where).orderBy('seq', direction).first();
    if (!row) return { after: before, steps: [] };
    const { worksheet } = applySteps(before, row[steps]);
    await change('history').where({ picture_id: pictureId, seq: row.seq }).update({ undone: !undone });
    return { after: worksheet, steps: row[steps] };
  });
