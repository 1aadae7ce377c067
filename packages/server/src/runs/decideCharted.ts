import { packed, said } from '@fennip/words';
import type { ChartedDecision } from '@fennip/contract';
import { chartFor, judgeEntry } from '../rows/chartRows.ts';
import type { Context } from '../context/context.ts';
import { notFound } from '../errors/refusal.ts';
import { faultStates } from '../rows/faultStates.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { cameraOf, pictureRow } from '../rows/pictureRows.ts';
import { editPicture } from './editPicture.ts';
import { startRun } from './runs.ts';

/**
 * Decides about a place of a dust chart once for all frames of a job: it is confirmed or dismissed on the chart, and
 * mended or dismissed wherever it is still open.
 *
 * @throws Refusal when the picture's camera has no such chart
 */
export async function decideCharted(
  context: Context,
  jobId: string,
  { picture: pictureId, charted, to }: ChartedDecision,
): Promise<void> {
  const { database } = context;
  const picture = await pictureRow(database, pictureId);
  if (picture.job_id !== jobId) throw notFound('picture');
  const camera = cameraOf(picture);
  const chart = camera === null ? null : await chartFor(database, camera, picture.capture.takenAt ?? null);
  if (!chart) throw notFound('dust chart');
  await judgeEntry(database, chart.id, charted, to === 'mend' ? 'confirmed' : 'dismissed');
  const frames = ((await database<PictureRow>('pictures').where('job_id', jobId)) as PictureRow[]).filter(
    (row) => cameraOf(row) === camera,
  );
  const open = await faultStates(database)
    .whereIn(
      'picture_id',
      frames.map(({ id }) => id),
    )
    .where({ charted, state: 'open' });
  if (open.length === 0) return;
  if (to === 'mend')
    await startRun(context, jobId, {
      kind: 'faults',
      pictures: [...new Set(open.map(({ picture_id }) => picture_id))],
      faults: open.map(({ picture_id, id }) => ({ picture: picture_id, fault: id })),
    });
  else
    for (const { picture_id, id } of open)
      await editPicture(context, picture_id, packed(said('step.dismissedPlace', { n: charted })), () => [
        { op: 'judge', fault: id, as: 'dismissed' },
      ]);
}
