import { availableParallelism } from 'node:os';
import { Piscina } from 'piscina';
import { bundleModule } from './bundleModule.mjs';
import type { RunTask, TaskCall, Tasks } from './tasks.ts';

export interface PoolOptions {
  /** All threads start at once and stay; else they start when there is work, and end after a minute without any. */
  readonly staysUp?: boolean;
  /** How many threads at most; as many as the machine runs at the same time where it is not said. */
  readonly count?: number;
}

/**
 * Room for what a thread makes and soon lets go of: examining makes tens of thousands of small things that live as long as a
 * tile, and takes a tenth less time when they need not be moved meanwhile. Taken when it is needed only.
 */
const YOUNG_MB = 128;
/** A thread that has nothing to do for so long ends, in milliseconds. */
const IDLE_MS = 60_000;

/**
 * Starts threads that run the function a TypeScript module exports by default. The module is brought into one piece of
 * JavaScript first: a thread that had to take three hundred files through a loader would start four times as slowly.
 *
 * @param module like `new URL('./thread.ts', import.meta.url)`
 */
export function startPool<Task, Answer>(
  module: URL,
  { staysUp = false, count = availableParallelism() }: PoolOptions = {},
): Piscina<Task, Answer> {
  return new Piscina<Task, Answer>({
    filename: bundleModule(module),
    // A module is imported, not required: a thread that is ended while it requires one takes its process down (Node 20.20).
    execArgv: ['--enable-source-maps', '--no-experimental-require-module'],
    resourceLimits: { maxYoungGenerationSizeMb: YOUNG_MB },
    ...(staysUp ? { minThreads: count } : { idleTimeout: IDLE_MS }),
    maxThreads: count,
    // Between two tasks a thread must come to let go of what the last one held.
    atomics: 'disabled',
  });
}

export interface TaskOptions extends PoolOptions {
  /** Looks at each outcome first, and throws where it stands for an error: errors lose their class between threads. */
  readonly check?: (outcome: unknown) => void;
}

/** Threads that carry out tasks. */
export interface TaskThreads<T extends Tasks> {
  readonly run: RunTask<T>;
  close(): Promise<void>;
}

/**
 * Starts threads that carry out tasks.
 *
 * @param module exports by default what `serveTasks` makes of these tasks
 */
export function startTaskThreads<T extends Tasks>(
  module: URL,
  { check = () => undefined, ...options }: TaskOptions = {},
): TaskThreads<T> {
  const pool = startPool<TaskCall, never>(module, options);
  return {
    run: async (task, input, transfer = [], signal = undefined) => {
      const outcome = await pool.run(
        { task, input },
        { transferList: [...transfer], ...(signal ? { signal } : {}) },
      );
      check(outcome);
      return outcome;
    },
    close: () => pool.destroy(),
  };
}
