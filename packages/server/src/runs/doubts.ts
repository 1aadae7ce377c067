import type { Doubt, OpenDoubt } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { faultStates } from '../rows/faultStates.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { cameraOf } from '../rows/pictureRows.ts';

interface DoubtRow {
  readonly picture_id: string;
  readonly doubts: readonly Doubt[];
}

/**
 * What the runs of a job left to the restorer and is still open, the worst first: where a mend did not pass, then what is
 * likeliest to be a fault. A picture's last run counts: it looked at all that was open then.
 */
export async function openDoubts(database: Database, jobId: string): Promise<OpenDoubt[]> {
  const rows: DoubtRow[] = await database('run_pieces')
    .join('runs', 'runs.id', 'run_pieces.run_id')
    .where('runs.job_id', jobId)
    .whereNotNull('picture_id')
    .whereRaw(`outcome->'doubts' is not null`)
    .distinctOn('picture_id')
    .orderBy([{ column: 'picture_id' }, { column: 'run_pieces.ended_at', order: 'desc' }])
    .select('picture_id', database.raw(`outcome->'doubts' as doubts`));
  const pictures = rows.map(({ picture_id }) => picture_id);
  const open = await faultStates(database).whereIn('picture_id', pictures).where('state', 'open');
  const stillOpen = new Map(open.map((fault) => [`${fault.picture_id}/${fault.id}`, fault]));
  const single = rows.flatMap(({ picture_id, doubts }) =>
    doubts.flatMap((doubt): OpenDoubt[] => {
      const fault = stillOpen.get(`${picture_id}/${doubt.fault}`);
      return fault ? [{ ...doubt, pictureId: picture_id, charted: fault.charted, frames: 1 }] : [];
    }),
  );
  return (await byPlace(database, single)).sort(
    (a, b) =>
      Number(a.because === 'not sure') - Number(b.because === 'not sure') || b.confidence - a.confidence,
  );
}

/** One doubt for each place of a chart, shown on the frame that is surest of it. */
async function byPlace(database: Database, doubts: readonly OpenDoubt[]): Promise<OpenDoubt[]> {
  const pictures = (await database<PictureRow>('pictures').whereIn(
    'id',
    doubts.map(({ pictureId }) => pictureId),
  )) as PictureRow[];
  const cameras = new Map(pictures.map((picture) => [picture.id, cameraOf(picture)]));
  const places = new Map<string, OpenDoubt[]>();
  doubts.forEach((doubt, k) => {
    const isPlace = doubt.charted !== null && doubt.because === 'not sure';
    const key = isPlace ? `${cameras.get(doubt.pictureId) ?? ''} ${doubt.charted}` : String(k);
    places.set(key, [...(places.get(key) ?? []), doubt]);
  });
  return [...places.values()].map((group) => ({
    ...group.reduce((a, b) => (b.confidence > a.confidence ? b : a)),
    frames: group.length,
  }));
}
