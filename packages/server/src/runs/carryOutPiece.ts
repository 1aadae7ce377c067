import { packed, said } from '@fennip/words';
import type { PieceOutcome, PieceState } from '@fennip/contract';
import { RecipeError } from '@fennip/core/errors';
import { EXAMINE_DEFAULTS } from '@fennip/core/examine';
import { PictureError } from '@fennip/files';
import type { Context } from '../context/context.ts';
import { Refusal } from '../errors/refusal.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { pictureRow } from '../rows/pictureRows.ts';
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

/** A piece that was begun so often is given up: something in it ends its worker. */
const MOST_ATTEMPTS = 5;

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

/** A failure that trying again will not mend, as a sentence; null for one that it may. */
function lastingReason(error: unknown): string | null {
  if (error instanceof PictureError || error instanceof Refusal) return packed(error.said);
  if (error instanceof RecipeError)
    return packed(said('refused.document', { place: error.place, reason: error.reason }));
  return null;
}

/**
 * Carries out a piece of a run, unless the run was paused or stopped, and orders the next stage when it was the last of
 * its own. An error that may pass is thrown on: the queue tries again after a growing pause.
 */
export async function carryOutPiece(context: Context, key: string): Promise<void> {
  const { database } = context;
  const [id, text] = key.split('/');
  const number = Number(text);
  const where = { run_id: id, number };
  const piece = (await database<PieceRow>('run_pieces').where(where).first()) as PieceRow | undefined;
  if (!piece || (piece.state !== 'waiting' && piece.state !== 'running')) return;
  const run = await runRow(database, id);
  if (run.state !== 'running') {
    // Whoever resumes the run orders it anew.
    if (piece.state === 'running') await database('run_pieces').where(where).update({ state: 'waiting' });
    return;
  }
  const end = async (state: PieceState, outcome: PieceOutcome): Promise<void> => {
    await database('run_pieces')
      .where(where)
      .update({ state, outcome: JSON.stringify(outcome), ended_at: database.fn.now() });
  };
  if (piece.attempts >= MOST_ATTEMPTS) await end('failed', { reason: packed(said('run.gaveUp')) });
  else {
    await database('run_pieces')
      .where(where)
      .update({ state: 'running', attempts: piece.attempts + 1, begun_at: database.fn.now() });
    await publishRun(context, id);
    try {
      await end('done', await workOn({ context, run, piece }));
    } catch (error) {
      const reason = lastingReason(error);
      if (error instanceof SkippedError) await end('skipped', { reason: packed(error.said) });
      else if (reason !== null) await end('failed', { reason });
      else {
        await database('run_pieces').where(where).update({ state: 'waiting' });
        throw error;
      }
    }
  }
  const [{ left }] = await database('run_pieces')
    .where({ run_id: id, stage: piece.stage })
    .whereIn('state', ['waiting', 'running'])
    .count('* as left');
  if (Number(left) === 0) await orderStage(context, id);
  await publishRun(context, id);
}
