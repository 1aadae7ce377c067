import type { Transfer } from '@fennip/core/light';
import type { FaultToMend, Mend, MethodChoice } from '@fennip/core/mend';
import type { Raster } from '@fennip/core/raster';
import { proposeMends, runMends, takenPlaces } from '@fennip/core/mend';
import { pixelsOf, sharedRaster } from '@fennip/core/raster';
import type { Threads } from './threads.ts';
import { startThreads } from './threads.ts';

/** A mend for each fault, worked out in threads that stand. */
export async function shareAmongThreads(
  threads: Threads,
  faults: readonly FaultToMend[],
  raster: Raster,
  transfer: readonly Transfer[] | undefined,
  choice: MethodChoice,
): Promise<Mend[]> {
  const picture = { raster: sharedRaster(raster), ...(transfer ? { transfer } : {}) };
  const { proposals } = await runMends(
    faults,
    { avoid: takenPlaces(faults), used: [] },
    pixelsOf(raster, transfer).shape,
    (part, surroundings) => threads.run('mend', { picture, faults: part, surroundings, choice }),
  );
  return proposals.map(({ mend }) => mend);
}

/** Fewer faults than this are mended before threads would have started. */
const WORTH_THREADS = 150;

/** A mend for each fault, in threads where that pays; the result is the same either way. */
export async function mendInThreads(
  faults: readonly FaultToMend[],
  raster: Raster,
  transfer: readonly Transfer[] | undefined,
  choice: MethodChoice,
): Promise<Mend[]> {
  if (faults.length < WORTH_THREADS) return proposeMends(faults, pixelsOf(raster, transfer), choice);
  const threads = startThreads();
  try {
    return await shareAmongThreads(threads, faults, raster, transfer, choice);
  } finally {
    await threads.close();
  }
}
