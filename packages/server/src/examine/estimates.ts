import type { Pace } from '@fennip/core/estimate';
import type { Fault } from '@fennip/core/fault';
import type { FinishStep } from '@fennip/core/finish';
import { estimateWork } from '@fennip/core/estimate';
import { framingOf, isInFrame } from '@fennip/core/finish';
import type { Database } from '../database/connect.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { faultsOf } from '../rows/faultRows.ts';

/** Notes how much work a picture is thought to be. Once the work has begun the time that was thought of stays. */
export async function keepEstimate(database: Database, pictureId: string, pace: Pace): Promise<void> {
  const row = await database<PictureRow>('pictures').where('id', pictureId).first();
  if (!row) return;
  const { faults, marked } = await faultsOf(database, pictureId);
  const steps: { body: FinishStep }[] = await database('finish_steps')
    .where('picture_id', pictureId)
    .select('body');
  const framing = framingOf(
    row,
    steps.map(({ body }) => body),
  );
  // What a crop will cut away is no work.
  const isKept = ({ x, y }: Fault): boolean => isInFrame(framing, x, y);
  const estimate = estimateWork([...faults, ...marked].filter(isKept), row, pace);
  const begun = row.estimate && row.revision > 0 ? row.estimate : null;
  const kept = begun ? { ...estimate, seconds: begun.seconds, isGuess: begun.isGuess } : estimate;
  await database('pictures')
    .where('id', pictureId)
    .update({ estimate: JSON.stringify(kept) });
}
