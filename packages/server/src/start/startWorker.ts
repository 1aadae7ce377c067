import type { Logger } from 'pino';
import type { Config } from '../context/config.ts';
import { openContext } from './openContext.ts';
import { carryOutPiece } from '../runs/carryOutPiece.ts';
import { keepReclaiming } from '../runs/reclaim.ts';

export interface RunningWorker {
  stop(): Promise<void>;
}

/** Takes up pieces of runs beside the server, here or on another machine with the same database and store. */
export async function startWorker(config: Config, log: Logger): Promise<RunningWorker> {
  const { context, close } = await openContext(config, log);
  await context.queue.serve({ piece: (key) => carryOutPiece(context, key) });
  const stopReclaiming = keepReclaiming(context);
  return {
    stop: async () => {
      stopReclaiming();
      await close();
    },
  };
}
