import type { Said } from '@fennip/words';
import { packed, said } from '@fennip/words';
import type { PieceOutcome, PieceState } from '@fennip/contract';
import { EXAMINE_DEFAULTS } from '@fennip/core/examine';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
import { giveUpDelivering } from '../deliver/deliveries.ts';
import { carryOver } from './pieces/carryOver.ts';
import { chartCamera } from './pieces/chartCamera.ts';
import { deliverPiece } from './pieces/deliverPiece.ts';
import { examinePiece } from './pieces/examinePiece.ts';
import { mendPiece } from './pieces/mendPiece.ts';
import { routinePiece } from './pieces/routinePiece.ts';
import { SkippedError } from './skipped.ts';
import type { PieceOrder } from './pieceOrder.ts';
import type { PieceRow } from '../rows/runRows.ts';
import { runRow } from '../rows/runRows.ts';
import { orderStage, publishRun } from './runs.ts';

async function picture({ context, piece }: PieceOrder): Promise<PictureRow> {
  if (piece.picture_id === null) throw new SkippedError(said('skipped.removed'));
  return pictureRow(context.database, piece.picture_id);
}

/** Does the work of a piece. Doing it a second time gives the same. */
async function workOn(order: PieceOrder): Promise<PieceOutcome> {
  const { request } = order.run;
  switch (order.piece.work) {
    case 'examine':
      return examinePiece(
        order.context,
        await picture(order),
        request.kind === 'series' ? request.sensitivity : EXAMINE_DEFAULTS.sensitivity,
      );
    case 'chart':
      return chartCamera(order);
    case 'mend':
      return mendPiece(order.context, await picture(order), request);
    case 'carry':
      return carryOver(order.context, await picture(order), request);
    case 'routine':
      return routinePiece(order.context, await picture(order), request);
    case 'delivery':
      return deliverPiece(order, await picture(order));
  }
}

/** The run and the number of a piece by its key. */
function placeOf(key: string): { run_id: string; number: number } {
  const [run_id, number] = key.split('/');
  return { run_id, number: Number(number) };
}

/** Notes how a piece ended, and orders the next stage when it was the last of its own. */
async function endPiece(
  context: Context,
  piece: Pick<PieceRow, 'run_id' | 'number' | 'stage'>,
  state: PieceState,
  outcome: PieceOutcome,
): Promise<void> {
  const { database } = context;
  const { run_id, number, stage } = piece;
  await database('run_pieces')
    .where({ run_id, number })
    .update({ state, outcome: JSON.stringify(outcome), ended_at: database.fn.now() });
  const [{ left }] = await database('run_pieces')
    .where({ run_id, stage })
    .whereIn('state', ['waiting', 'running'])
    .count('* as left');
  if (Number(left) === 0) await orderStage(context, run_id);
  await publishRun(context, run_id);
}

/** Notes that a piece will not be done. */
export async function giveUpPiece(context: Context, key: string, reason: Said): Promise<void> {
  const piece = await context.database<PieceRow>('run_pieces').where(placeOf(key)).first();
  const delivery = await context.database('deliveries').where('piece', key).first('id');
  if (delivery) await giveUpDelivering(context, delivery.id, reason);
  if (piece?.state === 'waiting' || piece?.state === 'running')
    await endPiece(context, piece as PieceRow, 'failed', { reason: packed(reason) });
}

/** Carries out a piece of a run, unless the run was paused or stopped. What goes wrong is thrown on: the queue decides. */
export async function carryOutPiece(context: Context, key: string): Promise<void> {
  const { database } = context;
  const where = placeOf(key);
  const piece = (await database<PieceRow>('run_pieces').where(where).first()) as PieceRow | undefined;
  if (!piece || (piece.state !== 'waiting' && piece.state !== 'running')) return;
  const run = await runRow(database, where.run_id);
  if (run.state !== 'running') {
    // Whoever resumes the run orders it anew.
    if (piece.state === 'running') await database('run_pieces').where(where).update({ state: 'waiting' });
    return;
  }
  await database('run_pieces')
    .where(where)
    .update({ state: 'running', attempts: piece.attempts + 1, begun_at: database.fn.now() });
  await publishRun(context, where.run_id);
  try {
    await endPiece(context, piece, 'done', await workOn({ context: { ...context, by: run.by }, run, piece }));
  } catch (error) {
    if (error instanceof SkippedError)
      await endPiece(context, piece, 'skipped', { reason: packed(error.said) });
    else {
      await database('run_pieces').where(where).update({ state: 'waiting' });
      throw error;
    }
  }
}
