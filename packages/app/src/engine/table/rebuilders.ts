import type { RebuildAnswer, RebuildTask } from '@fennip/core/mend';
import type { RebuildElsewhere } from '@fennip/core/recipe';
import { EMPTY_PATCH, cloneRaster } from '@fennip/core/raster';
import type { Remote } from 'comlink';
import { proxy, transfer, wrap } from 'comlink';
import type { Rebuilder } from '../rebuild/rebuilder.ts';

/** How far the work on rebuilds is. */
export interface Rebuilding {
  /** The mends that are being worked out or wait for it; what is seen of them is not final. */
  readonly ids: readonly string[];
  /** How much of the first of them is done, 0 to 1. */
  readonly share: number;
}

/** Rebuilds that are worked out beside the table, one after the other; what is not wanted any more ends at once. */
export interface Rebuilders {
  /** Begins a rebuild, or has it wait for its turn. */
  readonly begin: RebuildElsewhere;
  /** Ends all that is under way or waits. */
  endAll(): void;
  isBusy(): boolean;
  /** Ends when nothing is being worked out. */
  idle(): Promise<void>;
}

interface Job {
  readonly id: string;
  readonly task: RebuildTask;
  readonly bring: (answer: RebuildAnswer) => void;
}

function startWorker() {
  const thread = new Worker(new URL('../rebuild/rebuilder.ts', import.meta.url), {
    type: 'module',
    name: 'rebuilder',
  });
  return { thread, rebuild: wrap<Rebuilder>(thread) };
}

/** Every level holds four times the pixels of the one before it. */
const shareDone = (halvings: number): number => 4 ** -halvings;

/** @param onProgress called whenever it changes */
export function createRebuilders(onProgress: (rebuilding: Rebuilding) => void): Rebuilders {
  /** A worker and its one proxy: when the last proxy is forgotten, the worker's own end is closed. */
  let worker: { readonly thread: Worker; readonly rebuild: Remote<Rebuilder> } | null = null;
  let running: Job | null = null;
  let waiting: Job[] = [];
  const whenIdle: (() => void)[] = [];

  function start(job: Job): void {
    running = job;
    worker ??= startWorker();
    const { mend, fences, window } = job.task;
    // A part of a larger raster would be sent with all of it.
    const raster = cloneRaster(window.raster);
    const task = { mend, fences, window: { ...window, raster } };
    const brought = (answer: RebuildAnswer): void => {
      if (running !== job) return;
      job.bring(answer);
      if (answer.halvings === 0) return next();
      report(shareDone(answer.halvings));
    };
    const sent = transfer(task, [raster.planes[0].buffer as ArrayBuffer]);
    worker.rebuild(sent, proxy(brought)).catch((error: unknown) => {
      // Nothing is laid down, and what waits has its turn.
      console.error(error);
      brought({ halvings: 0, patch: EMPTY_PATCH });
    });
  }

  function next(): void {
    running = null;
    const job = waiting.shift();
    if (job) start(job);
    report();
  }

  function report(share = 0): void {
    onProgress({ ids: [...(running ? [running] : []), ...waiting].map(({ id }) => id), share });
    if (running) return;
    for (const idle of whenIdle.splice(0)) idle();
  }

  function end(job: Job): void {
    waiting = waiting.filter((other) => other !== job);
    if (running !== job) return report();
    // It would not hear of it before it is done.
    worker?.thread.terminate();
    worker = null;
    next();
  }

  return {
    begin: (task, bring) => {
      const job = { id: task.mend.id, task, bring };
      if (running) waiting.push(job);
      else start(job);
      report();
      return () => end(job);
    },
    endAll: () => {
      waiting = [];
      if (running) end(running);
    },
    isBusy: () => running !== null,
    idle: () =>
      running
        ? new Promise((resolve) => {
            whenIdle.push(resolve);
          })
        : Promise.resolve(),
  };
}
