import type { Said } from '@fennip/words';
import { packed } from '@fennip/words';
import type { NumberedFault } from '@fennip/core/fault';
import type { ExamineRequest } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { publishPicture } from '../events/publishPicture.ts';
import { findingsOf, keepFindings } from '../rows/findingRows.ts';
import { MeasuringStopped, measurePicture } from './measurePicture.ts';
import { replaceFindings } from './replaceFindings.ts';

/** Notes what is asked for. What was measured before is decided about at once; else the work is ordered. */
export async function orderExamination(context: Context, id: string, request: ExamineRequest): Promise<void> {
  const { database } = context;
  const row = await pictureRow(database, id);
  await database('pictures')
    .where('id', id)
    .update({
      ...{ examined: 'waiting', examine_problem: null },
      examine_request: JSON.stringify(request),
    });
  const known = await findingsOf(database, row);
  if (known) {
    await replaceFindings(database, id, request, known);
  } else await context.queue.order('examine', id);
  await publishPicture(context, id);
}

const UNDER_WAY = ['waiting', 'running'];

/** Lets an examination go that is waiting or under way. What an earlier one found stays. */
export async function stopExamination(context: Context, id: string): Promise<void> {
  const { database } = context;
  await pictureRow(database, id);
  const earlier = await database('examinations').where('picture_id', id).first('picture_id');
  await database('pictures')
    .where('id', id)
    .whereIn('examined', UNDER_WAY)
    .update({ examined: earlier ? 'done' : 'none' });
  await publishPicture(context, id);
}

/** All findings of a picture with their probabilities: measured once, and read again for every other sensitivity. */
async function allFindings(
  context: Context,
  row: PictureRow,
  isWanted?: () => Promise<boolean>,
): Promise<NumberedFault[]> {
  const known = await findingsOf(context.database, row);
  if (known) return known;
  const order = { work: 'examine', recipe: null, isWanted } as const;
  return keepFindings(context.database, row, await measurePicture(context, row, order));
}

/**
 * Examines a picture here and now, as a part of a longer run. One that was examined keeps its ledger.
 * @returns how many faults are listed
 */
export async function orderedExamination(
  context: Context,
  row: PictureRow,
  request: ExamineRequest,
): Promise<number> {
  const { database } = context;
  if (row.examined !== 'done') {
    await database('pictures')
      .where('id', row.id)
      .update({ examined: 'running', examine_request: JSON.stringify(request) });
    await replaceFindings(database, row.id, request, await allFindings(context, row));
    await publishPicture(context, row.id);
  }
  const [{ listed }] = await database('faults').where('picture_id', row.id).count('* as listed');
  return Number(listed);
}

/** Examines a picture and puts what was found into its ledger. */
export async function examinePicture(context: Context, id: string): Promise<void> {
  const { database } = context;
  const row = await database<PictureRow>('pictures').where('id', id).first();
  // It may have been stopped while it waited.
  if (!row?.examine_request || !UNDER_WAY.includes(row.examined)) return;
  await database('pictures').where('id', id).update({ examined: 'running' });
  await publishPicture(context, id);
  const isWanted = async (): Promise<boolean> => {
    const now = await database('pictures').where('id', id).whereIn('examined', UNDER_WAY).first('id');
    return now !== undefined;
  };
  try {
    const findings = await allFindings(context, row as PictureRow, isWanted);
    // Stopped when all was measured already, it is kept for the next time and not listed.
    if (!(await isWanted())) return;
    await replaceFindings(database, id, row.examine_request, findings);
  } catch (error) {
    if (error instanceof MeasuringStopped) return;
    throw error;
  }
  await publishPicture(context, id);
}

/** Notes that a picture will not be examined, and why. */
export async function giveUpExamining(context: Context, id: string, reason: Said): Promise<void> {
  await context
    .database('pictures')
    .where('id', id)
    .whereIn('examined', UNDER_WAY)
    .update({ examined: 'failed', examine_problem: packed(reason) });
  await publishPicture(context, id);
}
