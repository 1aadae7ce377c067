import { readFileSync } from 'node:fs';
import type { RequestListener, Server } from 'node:http';
import { createServer } from 'node:http';
import { createServer as createTlsServer } from 'node:https';
import type { AddressInfo } from 'node:net';
import type { Logger } from 'pino';
import type { Config } from '../context/config.ts';
import { application } from '../http/application.ts';
import { openContext } from './openContext.ts';
import { reclaimPieces } from '../runs/reclaim.ts';
import { keepReclaiming } from './keepReclaiming.ts';
import { keepTidy } from './keepTidy.ts';
import { openSessions } from '../people/sessions.ts';
import { needsSignIn } from '../people/needsSignIn.ts';
import { resumePictures, resumeWork, tidyStore } from './resume.ts';
import { pictureWorks, pieceWorks } from './works.ts';

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

/** A server that speaks TLS where it has a certificate. */
function createHttpServer({ tls }: Config, handler: RequestListener): Server {
  if (!tls) return createServer(handler);
  return createTlsServer({ cert: readFileSync(tls.certificate), key: readFileSync(tls.key) }, handler);
}

/** Brings the database up to date, takes up what was left undone, and answers. */
export async function startServer(config: Config, log: Logger): Promise<RunningServer> {
  const { context, close } = await openContext(config, log);
  await tidyStore(context);
  await context.queue.serve({
    ...pictureWorks(context),
    ...(config.runs === 'here' ? pieceWorks(context) : {}),
  });
  await resumeWork(context);
  const stopReclaiming = keepReclaiming(context, async () => {
    await resumePictures(context);
    await reclaimPieces(context);
  });
  const stopTidying = keepTidy(context);
  const sessions = needsSignIn(config) ? await openSessions(context) : null;
  const server = createHttpServer(config, application(context, sessions));
  const { port } = await listen(server, config);
  return {
    address: `${config.tls ? 'https' : 'http'}://${config.host}:${port}`,
    stop: async () => {
      stopReclaiming();
      stopTidying();
      context.events.close();
      await closeServer(server);
      await sessions?.close();
      await close();
    },
  };
}
