import { availableParallelism } from 'node:os';
import { startPool } from '@fennip/threads';
import type { MeasuredPart } from '@fennip/core/examine';
import type { MendProposal } from '@fennip/core/mend';
import type { PartRenderers } from '@fennip/core/recipe';
import type { NetTask, ExamineTask, MendTask, RenderTask } from './thread.ts';

/** As many threads as the machine has; starting them takes about as long as mending a hundred specks. */
export interface Threads {
  mend(task: Omit<MendTask, 'kind'>): Promise<MendProposal[]>;
  examine(task: Omit<ExamineTask, 'kind'>): Promise<MeasuredPart>;
  scoreWithNet(task: Omit<NetTask, 'kind'>): Promise<number[]>;
  readonly renderers: PartRenderers;
  close(): Promise<void>;
}

export function startThreads(): Threads {
  const count = availableParallelism();
  const pool = startPool(new URL('./thread.ts', import.meta.url), { staysUp: true, count });
  return {
    mend: (task) => pool.run({ kind: 'mend', ...task }) as Promise<MendProposal[]>,
    examine: (task) => pool.run({ kind: 'examine', ...task }) as Promise<MeasuredPart>,
    scoreWithNet: (task) => pool.run({ kind: 'score with net', ...task }) as Promise<number[]>,
    renderers: {
      count,
      render: async (ground, part) => {
        await pool.run({ kind: 'render', ground, part } satisfies RenderTask);
      },
    },
    close: () => pool.destroy(),
  };
}
