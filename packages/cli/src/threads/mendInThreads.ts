import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { FaultToMend, Mend, MethodChoice, Raster, Transfer } from '@fennip/core';
import {
  bytesPerSample,
  copyRaster,
  pixelsOf,
  proposeMends,
  rasterOver,
  shareMends,
  takenPlaces,
} from '@fennip/core';
import type { RunTask } from './thread.ts';

/** Threads that make mends; starting them takes about as long as mending a hundred specks. */
export interface MendThreads {
  mend(
    faults: readonly FaultToMend[],
    raster: Raster,
    transfer: readonly Transfer[] | undefined,
    choice: MethodChoice,
  ): Promise<Mend[]>;
  close(): Promise<void>;
}

/** As many threads as the machine has. */
export function startMendThreads(): MendThreads {
  const count = availableParallelism();
  const pool = new Piscina<RunTask, Mend[]>({
    filename: fileURLToPath(new URL('./thread.ts', import.meta.url)),
    execArgv: ['--import', 'tsx'],
    minThreads: count,
    maxThreads: count,
  });

  return {
    mend: (faults, raster, transfer, choice) => {
      const { width, height, depth } = raster;
      const channels = raster.planes.length;
      const buffer = new SharedArrayBuffer(width * height * channels * bytesPerSample(depth));
      copyRaster(raster, rasterOver(buffer, width, height, channels, depth), 0, 0);
      const picture = { buffer, width, height, channels, depth, ...(transfer ? { transfer } : {}) };
      return shareMends(
        faults,
        { avoid: takenPlaces(faults), used: [] },
        pixelsOf(raster, transfer).shape,
        (run, surroundings) => pool.run({ ...picture, faults: run, surroundings, choice }),
      );
    },
    close: () => pool.destroy(),
  };
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
  const threads = startMendThreads();
  try {
    return await threads.mend(faults, raster, transfer, choice);
  } finally {
    await threads.close();
  }
}
