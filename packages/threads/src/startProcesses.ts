import type { ChildProcess } from 'node:child_process';
import { fork } from 'node:child_process';
import { readFile } from 'node:fs/promises';
import { bundleModule } from './bundleModule.mjs';
import type { Answer, ProcessCall, SpeakingTasks } from './processTasks.ts';

/** Bounds on what a task may take; a process that goes beyond is ended. */
export interface TaskBounds {
  /** Milliseconds. */
  readonly mostMs: number;
  /** Bytes of memory that the process holds (its resident set). */
  readonly mostBytes: number;
}

/** A process ended under its task, or was ended. */
export class ProcessEndedError extends Error {
  override readonly name = 'ProcessEndedError';
  constructor(
    readonly task: string,
    readonly reason: 'time' | 'memory' | 'ended by itself' | 'closed',
  ) {
    super(`the process that did ${task} ended: ${reason}`);
  }
}

/** Processes that carry out tasks: what ends one of them, ends nothing else. */
export interface TaskProcesses<T extends SpeakingTasks> {
  /** @param onMessage called with what the task says while it works */
  run<K extends keyof T & string>(
    task: K,
    input: Parameters<T[K]>[0],
    bounds: TaskBounds,
    onMessage?: (message: Parameters<Parameters<T[K]>[1]>[0]) => void,
  ): Promise<Awaited<ReturnType<T[K]>>>;
  close(): Promise<void>;
}

/** How often the memory of a process at work is looked at, in milliseconds. */
const LOOK_MS = 100;
/** A process with nothing to do ends after so many milliseconds. */
const IDLE_MS = 60_000;
const PAGE_BYTES = 4096;

/** Bytes that a process holds in memory; 0 where the system does not say (it does on Linux). */
const residentBytes = (pid: number): Promise<number> =>
  readFile(`/proc/${pid}/statm`, 'utf8').then(
    (text) => Number(text.split(' ')[1]) * PAGE_BYTES,
    () => 0,
  );

/** One process, with one task at a time. */
interface Worker {
  readonly child: ChildProcess;
  /** Ends the task it is at, if it is at one. */
  fail(reason: ProcessEndedError['reason']): void;
  idle: ReturnType<typeof setTimeout> | null;
}

/**
 * Starts processes as they are needed.
 *
 * @param module serves tasks with `serveProcess`
 * @param count how many work at the same time at most
 */
export function startTaskProcesses<T extends SpeakingTasks>(module: URL, count: number): TaskProcesses<T> {
  const free: Worker[] = [];
  const all = new Set<Worker>();
  const waiting: (() => void)[] = [];
  let isClosed = false;

  function start(): Worker {
    const child = fork(bundleModule(module), {
      serialization: 'advanced',
      execArgv: ['--enable-source-maps'],
      // What a library prints on the way out belongs to nobody.
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    });
    const worker: Worker = { child, fail: () => undefined, idle: null };
    all.add(worker);
    const gone = (): void => {
      all.delete(worker);
      const at = free.indexOf(worker);
      if (at >= 0) free.splice(at, 1);
      worker.fail(isClosed ? 'closed' : 'ended by itself');
      waiting.shift()?.();
    };
    child.once('exit', gone);
    child.once('error', gone);
    return worker;
  }

  async function takeWorker(): Promise<Worker> {
    for (;;) {
      const worker = free.pop() ?? (all.size < count ? start() : null);
      if (worker) {
        if (worker.idle) clearTimeout(worker.idle);
        return worker;
      }
      await new Promise<void>((resolve) => waiting.push(resolve));
    }
  }

  function giveBack(worker: Worker): void {
    if (!all.has(worker)) {
      waiting.shift()?.();
      return;
    }
    worker.idle = setTimeout(() => worker.child.kill(), IDLE_MS);
    worker.idle.unref();
    free.push(worker);
    waiting.shift()?.();
  }

  function work(
    worker: Worker,
    call: ProcessCall,
    { mostMs, mostBytes }: TaskBounds,
    onMessage: (message: never) => void,
  ): Promise<never> {
    const { child } = worker;
    return new Promise<never>((resolve, reject) => {
      const end = (finish: () => void): void => {
        clearTimeout(late);
        clearInterval(look);
        child.off('message', hear);
        worker.fail = () => undefined;
        finish();
      };
      const endBy = (reason: ProcessEndedError['reason']): void =>
        end(() => {
          // It is none to be given work any more, though it takes a moment to end.
          all.delete(worker);
          child.kill('SIGKILL');
          reject(new ProcessEndedError(call.task, reason));
        });
      const hear = (answer: Answer): void => {
        if ('said' in answer) onMessage(answer.said as never);
        else if ('failed' in answer) end(() => reject(new Error(answer.failed)));
        else end(() => resolve(answer.done as never));
      };
      const late = setTimeout(() => endBy('time'), mostMs);
      const look = setInterval(() => {
        void residentBytes(child.pid ?? 0).then((bytes) => {
          if (bytes > mostBytes) endBy('memory');
        });
      }, LOOK_MS);
      worker.fail = endBy;
      child.on('message', hear);
      child.send(call, (error) => {
        if (error) endBy('ended by itself');
      });
    });
  }

  return {
    async run(task, input, bounds, onMessage = () => undefined) {
      const worker = await takeWorker();
      if (isClosed) throw new ProcessEndedError(task, 'closed');
      try {
        return await work(worker, { task, input }, bounds, onMessage);
      } finally {
        giveBack(worker);
      }
    },
    async close() {
      isClosed = true;
      await Promise.all(
        [...all].map(
          ({ child }) =>
            new Promise<void>((resolve) => {
              child.once('exit', () => resolve());
              child.kill('SIGKILL');
            }),
        ),
      );
      for (const wake of waiting.splice(0)) wake();
    },
  };
}
