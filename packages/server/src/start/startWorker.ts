import type { Logger } from 'pino';
import type { Config } from '../context/config.ts';
import { openContext } from './openContext.ts';
import { reclaimPieces } from '../runs/reclaim.ts';
import { keepReclaiming } from './keepReclaiming.ts';
import { pieceWorks } from './works.ts';

export interface RunningWorker {
  stop(): Promise<void>;
}

/** Takes up pieces of runs beside the server, here or on another machine with the same database and store. */
export async function startWorker(config: Config, log: Logger): Promise<RunningWorker> {
  const { context, close } = await openContext(config, log);
  await context.queue.serve(pieceWorks(context));
  const stopReclaiming = keepReclaiming(context, () => reclaimPieces(context));
  return {
    stop: async () => {
      stopReclaiming();
      await close();
    },
  };
}
