import type { Fault } from '@fennip/core';
import { SPECK_DEFAULTS, examineTiles, leastConfidence, orderFindings } from '@fennip/core';
import type { ExamineRequest } from '@fennip/contract';
import { PictureError } from '@fennip/files';
import type { Context } from '../context.ts';
import type { PictureRow } from '../pictures/pictureRows.ts';
import { pictureRow } from '../pictures/pictureRows.ts';
import { tellPicture } from '../pictures/tellPicture.ts';
import { replaceFindings } from './faultRows.ts';

/** Notes what is asked for and orders the work. */
export async function orderExamination(context: Context, id: string, request: ExamineRequest): Promise<void> {
  await pictureRow(context.database, id);
  await context
    .database('pictures')
    .where('id', id)
    .update({ examined: 'waiting', examine_request: JSON.stringify(request) });
  await context.queue.order('examine', id);
  await tellPicture(context, id);
}

/** Looks for specks in all threads, tile by tile. */
async function findAll(context: Context, row: PictureRow, request: ExamineRequest): Promise<Fault[]> {
  const { threads, store, events } = context;
  const raster = await threads.load(store.pathOf('originals', row.sha256));
  const tiles = examineTiles(raster);
  let done = 0;
  const found = await Promise.all(
    tiles.map(async (tile) => {
      const faults = await threads.examine(raster, tile, {
        ...SPECK_DEFAULTS,
        polarities: request.polarities,
      });
      done++;
      events.tell(row.job_id, {
        type: 'progress',
        work: 'examine',
        pictureId: row.id,
        share: done / tiles.length,
      });
      return faults;
    }),
  );
  const least = leastConfidence(request.sensitivity);
  return orderFindings(found.flat()).filter((fault) => fault.confidence >= least);
}

/** Examines a picture and puts what was found into its ledger. */
export async function examinePicture(context: Context, id: string): Promise<void> {
  const { database } = context;
  const row = await database<PictureRow>('pictures').where('id', id).first();
  if (!row?.examine_request || row.examined === 'done') return;
  await database('pictures').where('id', id).update({ examined: 'running' });
  await tellPicture(context, id);
  try {
    const faults = await findAll(context, row as PictureRow, row.examine_request);
    await replaceFindings(database, id, row.examine_request, faults);
  } catch (error) {
    await database('pictures').where('id', id).update({ examined: 'failed' });
    if (!(error instanceof PictureError)) throw error;
  }
  await tellPicture(context, id);
}
