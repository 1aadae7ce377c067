import { availableParallelism } from 'node:os';
import { fileURLToPath } from 'node:url';
import { Piscina } from 'piscina';
import type { MeasuredPart, Mend, Raster, Transfer } from '@fennip/core';
import { bytesPerSample, copyRaster, rasterOver } from '@fennip/core';
import type { ExamineTask, MendTask, SharedPicture } from './thread.ts';

/** As many threads as the machine has; starting them takes about as long as mending a hundred specks. */
export interface Threads {
  mend(task: Omit<MendTask, 'kind'>): Promise<Mend[]>;
  examine(task: Omit<ExamineTask, 'kind'>): Promise<MeasuredPart>;
  close(): Promise<void>;
}

export function startThreads(): Threads {
  const count = availableParallelism();
  const pool = new Piscina({
    filename: fileURLToPath(new URL('./thread.ts', import.meta.url)),
    execArgv: ['--import', 'tsx'],
    minThreads: count,
    maxThreads: count,
  });
  return {
    mend: (task) => pool.run({ kind: 'mend', ...task }) as Promise<Mend[]>,
    examine: (task) => pool.run({ kind: 'examine', ...task }) as Promise<MeasuredPart>,
    close: () => pool.destroy(),
  };
}

/** A copy of a picture in memory that all threads share. */
export function sharedPicture(raster: Raster, transfer?: readonly Transfer[]): SharedPicture {
  const { width, height, depth } = raster;
  const channels = raster.planes.length;
  const buffer = new SharedArrayBuffer(width * height * channels * bytesPerSample(depth));
  copyRaster(raster, rasterOver(buffer, width, height, channels, depth), 0, 0);
  return { buffer, width, height, channels, depth, ...(transfer ? { transfer } : {}) };
}
