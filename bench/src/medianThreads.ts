import type { Depth, Plane } from '@fennip/core/raster';
import { startPool } from '@fennip/threads';

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
  const pool = startPool<MedianTask, number>(new URL('./medianThread.ts', import.meta.url), {
    staysUp: true,
    count: 2,
  });
  return { filter: (task) => pool.run(task), stop: () => pool.destroy() };
}
