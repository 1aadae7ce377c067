import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import type { Config } from './config.ts';
import type { Context } from './context.ts';
import { connect } from './database/connect.ts';
import { migrate } from './database/migrations.ts';
import { deliver } from './deliver/deliveries.ts';
import { createEventHub } from './events/eventHub.ts';
import { checkMended } from './examine/checkMended.ts';
import { examinePicture } from './examine/examinePicture.ts';
import { application } from './http/application.ts';
import { preparePicture } from './pictures/preparePicture.ts';
import { openStore } from './store/store.ts';
import { openQueue } from './work/queue.ts';
import { resumeWork, tidyStore } from './work/resume.ts';
import { startThreads } from './work/threads.ts';

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
  const database = connect(config.databaseUrl);
  await migrate(database);
  const context: Context = {
    config,
    database,
    store: await openStore(config.storeFolder),
    threads: startThreads(config.mostPixels),
    events: createEventHub(),
    queue: await openQueue(config.databaseUrl, database, log),
    log,
  };
  await tidyStore(context);
  await context.queue.serve({
    prepare: (id) => preparePicture(context, id),
    examine: (id) => examinePicture(context, id),
    check: (id) => checkMended(context, id),
    deliver: (id) => deliver(context, id),
  });
  await resumeWork(context);
  const server = createServer(application(context));
  const { port } = await listen(server, config);
  return {
    address: `http://${config.host}:${port}`,
    stop: async () => {
      context.events.close();
      await closeServer(server);
      await context.queue.close();
      await context.threads.close();
      await database.destroy();
    },
  };
}
