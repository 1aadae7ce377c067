import pino from 'pino';
import { readConfig } from './config.ts';
import { startServer } from './startServer.ts';

const log = pino({ level: process.env['FENNIP_LOG'] ?? 'info' });
const server = await startServer(readConfig(process.env), log);
console.log(`Fennip answers at ${server.address}`);

let stopping = false;
for (const signal of ['SIGINT', 'SIGTERM'] as const) {
  process.on(signal, () => {
    if (stopping) return;
    stopping = true;
    server.stop().then(
      () => process.exit(0),
      (error: unknown) => {
        log.error({ err: error }, 'did not stop cleanly');
        process.exit(1);
      },
    );
  });
}
