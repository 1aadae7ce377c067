import type { Fault, Recipe } from '@fennip/core';
import { examineAmong, wholeWindow } from '@fennip/core';
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
  return examineAmong(
    {
      tile: (tile) => threads.examine(raster, tile, row.nature),
      whole: () => threads.examineWhole(raster),
      closer: (specks) => threads.lookCloser(raster, specks),
    },
    wholeWindow(raster).picture,
    row.nature,
    (share) => events.tell(row.job_id, { type: 'progress', work, pictureId: row.id, share }),
  );
}
