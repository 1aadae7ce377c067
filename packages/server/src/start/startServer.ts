import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import type { Config } from '../context/config.ts';
import { deliver } from '../deliver/deliveries.ts';
import { checkMended } from '../examine/checkMended.ts';
import { examinePicture } from '../examine/examinePicture.ts';
import { application } from '../http/application.ts';
import { openContext } from './openContext.ts';
import { preparePicture } from '../pictures/preparePicture.ts';
import { carryOutPiece } from '../runs/carryOutPiece.ts';
import { keepReclaiming } from '../runs/reclaim.ts';
import { resumeWork, tidyStore } from './resume.ts';

const CLOSING_MS = 1500;

export interface RunningServer {
  /** Where it answers, like http://127.0.0.1:8420 */
  readonly address: string;
  stop(): Promise<void>;
}

function listen(server: Server, { host, port }: Config): Promise<AddressInfo> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, host, () => resolve(server.address() as AddressInfo));
  });
}

/** Answers under way may end; after a moment the rest is cut off. */
function closeServer(server: Server): Promise<void> {
  return new Promise((resolve) => {
    const cut = setTimeout(() => server.closeAllConnections(), CLOSING_MS);
    server.close(() => {
      clearTimeout(cut);
      resolve();
    });
    server.closeIdleConnections();
  });
}

/** Brings the database up to date, takes up what was left undone, and answers. */
export async function startServer(config: Config, log: Logger): Promise<RunningServer> {
  const { context, close } = await openContext(config, log);
  await tidyStore(context);
  await context.queue.serve({
    prepare: (id) => preparePicture(context, id),
    examine: (id) => examinePicture(context, id),
    check: (id) => checkMended(context, id),
    deliver: (id) => deliver(context, id),
    ...(config.runs === 'here' ? { piece: (key: string) => carryOutPiece(context, key) } : {}),
  });
  await resumeWork(context);
  const stopReclaiming = keepReclaiming(context);
  const server = createServer(application(context));
  const { port } = await listen(server, config);
  return {
    address: `http://${config.host}:${port}`,
    stop: async () => {
      stopReclaiming();
      context.events.close();
      await closeServer(server);
      await close();
    },
  };
}
