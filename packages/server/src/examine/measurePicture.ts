import type { Fault, Recipe } from '@fennip/core';
import { examineTiles, gatherFindings, wholeWindow } from '@fennip/core';
import type { WorkKind } from '@fennip/contract';
import type { Context } from '../context.ts';
import type { PictureRow } from '../pictures/pictureRows.ts';

/** On which picture faults are measured, and as what work it is told. */
interface MeasureOrder {
  readonly work: WorkKind;
  /** Laid down first; null measures the picture as it came in. */
  readonly recipe: Recipe | null;
}

/** Measures a picture in all threads, tile by tile. */
export async function measurePicture(
  { threads, store, events }: Context,
  row: PictureRow,
  { work, recipe }: MeasureOrder,
): Promise<Fault[]> {
  const raster = await threads.load(store.pathOf('originals', row.sha256), recipe);
  const tiles = examineTiles(wholeWindow(raster).picture);
  // Only a print can have areas: a camera frame has no emulsion to lose.
  const whole = row.nature === 'print' ? [threads.examineWhole(raster)] : [];
  const parts = [...whole, ...tiles.map((tile) => threads.examine(raster, tile, row.nature))];
  let done = 0;
  const measured = await Promise.all(
    parts.map(async (measuring) => {
      const part = await measuring;
      done++;
      events.tell(row.job_id, { type: 'progress', work, pictureId: row.id, share: done / parts.length });
      return part;
    }),
  );
  return gatherFindings(measured, row.nature);
}
