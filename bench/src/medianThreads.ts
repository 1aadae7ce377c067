import { fileURLToPath } from 'node:url';
import type { Depth, Plane } from '@fennip/core';
import { Piscina } from 'piscina';

/** A part of a plane in shared memory, to be filtered on a thread. */
export interface MedianTask {
  readonly plane: Plane;
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
  readonly radius: number;
}

/** Two threads that filter parts of planes. */
export function startMedianThreads(): {
  filter: (task: MedianTask) => Promise<number>;
  stop: () => Promise<void>;
} {
  const pool = new Piscina<MedianTask, number>({
    filename: fileURLToPath(new URL('./medianThread.ts', import.meta.url)),
    execArgv: ['--import', 'tsx'],
    minThreads: 2,
    maxThreads: 2,
  });
  return { filter: (task) => pool.run(task), stop: () => pool.destroy() };
}
