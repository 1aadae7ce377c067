import pino from 'pino';
import { readConfig } from './context/config.ts';
import { NobodyKnownError } from './people/needsSignIn.ts';
import { OtherStoreError } from './store/agreeOnStore.ts';
import { startServer } from './start/startServer.ts';
import { startWorker } from './start/startWorker.ts';

// For machines a line of JSON for each thing that happens; for people, where it is asked for, the same as words.
const log = pino({
  level: process.env['FENNIP_LOG'] ?? 'info',
  ...(process.env['FENNIP_LOG_FORMAT'] === 'people' ? { transport: { target: 'pino-pretty' } } : {}),
});
const config = readConfig(process.env);
const isWorker = process.argv.includes('--worker');

async function start(): Promise<{ stop(): Promise<void> }> {
  if (isWorker) {
    const worker = await startWorker(config, log);
    console.log('Fennip works on what runs order');
    return worker;
  }
  const server = await startServer(config, log);
  console.log(`Fennip answers at ${server.address}`);
  return server;
}

/** What the supervisor takes for "it will not go any better another time" (EX_CONFIG of sysexits.h). */
const WILL_NOT_RUN = 78;

// Whatever was not caught: said whole, and the process is started anew by whoever keeps it running.
for (const event of ['uncaughtException', 'unhandledRejection'] as const)
  process.on(event, (error: unknown) => {
    log.fatal({ err: error }, `not caught: ${event}`);
    process.exit(1);
  });

let running: { stop(): Promise<void> };
try {
  running = await start();
} catch (error) {
  log.fatal({ err: error }, 'did not start');
  const isFinal = error instanceof OtherStoreError || error instanceof NobodyKnownError;
  if (isFinal) console.error(error.message);
  process.exit(isFinal ? WILL_NOT_RUN : 1);
}

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    running.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'did not stop cleanly');
        process.exit(1);
      },
    );
  });
}
