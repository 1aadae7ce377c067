import { said } from '@fennip/words';
import type { PieceWork, RunRequest } from '@fennip/contract';
import type { Database } from '../database/connect.ts';
import { Refusal } from '../errors/refusal.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import { cameraOf } from '../rows/pictureRows.ts';

/** A piece of work before it has a number. All of a stage may be done at the same time, and before the next. */
export interface PlannedPiece {
  readonly stage: number;
  readonly work: PieceWork;
  readonly pictureId: string | null;
  readonly subject: string | null;
}

/** The pictures that are asked for, in the order of the job. @throws Refusal when one is not of it or not ready */
export async function picturesFor(
  database: Database,
  jobId: string,
  ids: readonly string[],
): Promise<PictureRow[]> {
  const rows = (await database<PictureRow>('pictures')
    .where('job_id', jobId)
    .whereIn('id', [...ids])
    .orderBy('position')) as PictureRow[];
  if (rows.length < ids.length) throw new Refusal('changed meanwhile', said('refused.pictureGone'));
  const unready = rows.find(({ state }) => state !== 'ready');
  if (unready) throw new Refusal('not ready', said('refused.notReady', { name: unready.name }));
  return rows;
}

const each = (rows: readonly PictureRow[], stage: number, work: PieceWork): PlannedPiece[] =>
  rows.map(({ id }) => ({ stage, work, pictureId: id, subject: null }));

/** Cuts a run into pieces. */
export function planPieces(request: RunRequest, rows: readonly PictureRow[]): PlannedPiece[] {
  switch (request.kind) {
    case 'series': {
      const cameras = [...new Set(rows.map(cameraOf))].filter((camera) => camera !== null);
      const toMend = rows.filter(({ is_reference }) => !is_reference);
      return [
        ...(request.examine ? each(toMend, 0, 'examine') : []),
        ...(request.chart
          ? cameras.map((subject): PlannedPiece => ({ stage: 1, work: 'chart', pictureId: null, subject }))
          : []),
        ...(request.mend || request.chart ? each(toMend, 2, 'mend') : []),
      ];
    }
    case 'carry':
      return each(
        rows.filter(({ id }) => id !== request.from),
        0,
        'carry',
      );
    case 'faults':
      return each(rows, 0, 'mend');
    case 'routine':
      return each(rows, 0, 'routine');
    case 'delivery':
      return each(rows, 0, 'delivery');
  }
}
