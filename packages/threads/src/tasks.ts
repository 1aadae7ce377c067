import type { MessagePort } from 'node:worker_threads';

/** What threads can be asked to do: each a function of one value that can be sent to a thread. */
export type Tasks = Readonly<Record<string, (input: never) => unknown>>;

/** One thing that a thread is asked to do. */
export interface TaskCall {
  readonly task: string;
  readonly input: unknown;
}

/**
 * Has a task carried out in a thread.
 *
 * @param transfer ports that the input hands over
 * @param signal ends the task, and its thread with it, wherever it is
 */
export type RunTask<T extends Tasks> = <K extends keyof T & string>(
  task: K,
  input: Parameters<T[K]>[0],
  transfer?: readonly MessagePort[],
  signal?: AbortSignal,
) => Promise<Awaited<ReturnType<T[K]>>>;

/** What a thread's module exports by default: carries out what is called. */
export const serveTasks =
  (tasks: Tasks) =>
  ({ task, input }: TaskCall): unknown =>
    // What was sent was typed by `RunTask`, which is made from the same tasks.
    tasks[task](input as never);
