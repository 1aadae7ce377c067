import { said } from '@fennip/words';
import type { PieceOutcome } from '@fennip/contract';
import { framesOf, makeCharts } from '../../charts/makeChart.ts';
import type { PieceOrder } from '../pieceOrder.ts';
import { SkippedError } from '../skipped.ts';

/** Makes the dust chart of a camera. */
export async function chartCamera({ context, run, piece }: PieceOrder): Promise<PieceOutcome> {
  const camera = piece.subject ?? '';
  const frames = await framesOf(context, camera);
  if (frames.length < 2) throw new SkippedError(said('skipped.fewFrames', { camera }));
  const [first] = frames;
  const charts = await makeCharts(context, camera, (share) =>
    context.events.publish(run.job_id, { type: 'progress', work: 'piece', pictureId: first.id, share }),
  );
  const last = charts[charts.length - 1];
  return { found: last.entries, chart: last.id };
}
