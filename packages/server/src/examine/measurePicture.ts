import { availableParallelism } from 'node:os';
import type { Fault } from '@fennip/core/fault';
import type { Recipe } from '@fennip/core/recipe';
import { examineAmong } from '@fennip/core/examine';
import { wholeWindow } from '@fennip/core/raster';
import type { WorkKind } from '@fennip/contract';
import type { Context } from '../context/context.ts';
import type { PictureRow } from '../rows/pictureRows.ts';
import pLimit from 'p-limit';

/** On which picture faults are measured, and as what work it is told. */
interface MeasureOrder {
  readonly work: WorkKind;
  /** Laid down first; null measures the picture as it came in. */
  readonly recipe: Recipe | null;
  /** Asked before each part; where it says no, {@link MeasuringStopped} is thrown. */
  readonly isWanted?: () => Promise<boolean>;
}

/** Nobody wants what was being measured any more. */
export class MeasuringStopped extends Error {
  override readonly name = 'MeasuringStopped';
}

/** Measures a picture in all threads, tile by tile. */
export async function measurePicture(
  { threads, store, events }: Context,
  row: PictureRow,
  { work, recipe, isWanted }: MeasureOrder,
): Promise<Fault[]> {
  const raster = await threads.load(store.pathOf('originals', row.sha256), recipe);
  // No more are handed over than the threads are at: what waits can still be let go.
  const turn = pLimit(availableParallelism());
  const whileWanted = <T>(measure: () => Promise<T>): Promise<T> =>
    turn(async () => {
      if (isWanted && !(await isWanted())) throw new MeasuringStopped();
      return measure();
    });
  return examineAmong(
    {
      tile: (tile) => whileWanted(() => threads.examine(raster, tile, row.nature)),
      whole: () => whileWanted(() => threads.examineWhole(raster)),
      closer: (specks) => whileWanted(() => threads.scoreWithNet(raster, specks)),
      // A hard copy of something else in the picture is no fault that the net has learned: what mends leave behind is left
      // to the finders.
      joined: (findings) =>
        work === 'check'
          ? Promise.resolve([...findings])
          : whileWanted(() => threads.joinNet(raster, findings, row.nature)),
    },
    wholeWindow(raster).picture,
    row.nature,
    (share) => events.publish(row.job_id, { type: 'progress', work, pictureId: row.id, share }),
  );
}
