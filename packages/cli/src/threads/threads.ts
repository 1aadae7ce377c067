import type { PartRenderers } from '@fennip/core/recipe';
import type { TaskThreads } from '@fennip/threads';
import { startTaskThreads } from '@fennip/threads';
import { availableParallelism } from 'node:os';
import type { tasks } from './tasks.ts';

/** As many threads as the machine has; starting them takes about as long as mending a hundred specks. */
export interface Threads extends TaskThreads<typeof tasks> {
  readonly renderers: PartRenderers;
}

export function startThreads(): Threads {
  const count = availableParallelism();
  const threads = startTaskThreads<typeof tasks>(new URL('./thread.ts', import.meta.url), {
    staysUp: true,
    count,
  });
  return {
    ...threads,
    renderers: { count, render: (ground, part) => threads.run('render', { ground, part }) },
  };
}
