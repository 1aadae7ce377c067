import pino from 'pino';
import { readConfig } from './context/config.ts';
import { startServer } from './start/startServer.ts';
import { startWorker } from './start/startWorker.ts';

const log = pino({ level: process.env['FENNIP_LOG'] ?? 'info' });
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

const running = await start();

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
