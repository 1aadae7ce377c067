import type { Depth, Plane } from '@fennip/core';
import { medianFilter } from '@fennip/core';
import { Worker, isMainThread, parentPort } from 'node:worker_threads';

/** A part of a plane in shared memory, to be filtered on a thread. */
export interface MedianTask {
  readonly plane: Plane;
  readonly width: number;
  readonly height: number;
  readonly depth: Depth;
  readonly radius: number;
}

const workers: Worker[] = [];
const free: Worker[] = [];

/** Has a task filtered on a thread of its own; threads are kept from task to task. */
export function onThread(task: MedianTask): Promise<unknown> {
  const known = free.pop();
  const worker = known ?? new Worker(new URL(import.meta.url), { execArgv: ['--import', 'tsx'] });
  if (!known) workers.push(worker);
  return new Promise((resolve, reject) => {
    worker.once('error', reject);
    worker.once('message', (message) => {
      worker.removeListener('error', reject);
      free.push(worker);
      resolve(message);
    });
    worker.postMessage(task);
  });
}

export function stopThreads(): void {
  for (const worker of workers.splice(0)) void worker.terminate();
  free.length = 0;
}

if (!isMainThread)
  parentPort?.on('message', ({ plane, width, height, depth, radius }: MedianTask) => {
    const medians = medianFilter({ plane, width, height, stride: width, depth }, radius);
    parentPort?.postMessage(medians.length);
  });
