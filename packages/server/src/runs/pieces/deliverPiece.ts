import { said, unpacked } from '@fennip/words';
import type { PieceOutcome } from '@fennip/contract';
import { PictureError } from '@fennip/files';
import { deliver, giveUpDelivering, namedDelivery } from '../../deliver/deliveries.ts';
import { namesFor } from '../../deliver/fileNames.ts';
import type { PictureRow } from '../../rows/pictureRows.ts';
import type { PieceOrder } from '../pieceOrder.ts';
import { picturesFor } from '../planPieces.ts';
import { SkippedError } from '../skipped.ts';

/** Renders one picture of a job's delivery under its name. A piece that is done a second time takes up its delivery. */
export async function deliverPiece(
  { context, run, piece }: PieceOrder,
  picture: PictureRow,
): Promise<PieceOutcome> {
  const { request } = run;
  if (request.kind !== 'delivery') throw new SkippedError(said('skipped.nothingDelivered'));
  const { database } = context;
  const { name: job } = await database('jobs').where('id', run.job_id).first('name');
  const pictures = await picturesFor(database, run.job_id, request.pictures);
  const names = namesFor(
    pictures.map(({ name }) => name),
    request.pattern,
    job,
    request.delivery.format,
  );
  const fileName = names[pictures.findIndex(({ id }) => id === picture.id)];
  const id = await namedDelivery(context, picture, request.delivery, fileName, `${run.id}/${piece.number}`);
  try {
    await deliver({ ...context, threads: context.background }, id);
  } catch (error) {
    if (!(error instanceof PictureError)) throw error;
    await giveUpDelivering(context, id, error.said);
  }
  const done = await database('deliveries').where('id', id).first('state', 'problem', 'mends');
  if (done.state !== 'done')
    throw new SkippedError(unpacked(done.problem ?? '') ?? said('skipped.notRendered'));
  return { delivery: id, fileName, mended: done.mends };
}
