import type { Response } from 'express';
import type { JobEvent } from '@fennip/contract';

/** A comment now and then keeps proxies from closing a quiet stream. */
const HEARTBEAT_MS = 20_000;

/** Sends events as they happen (server-sent events), until the page goes away. */
export function sendEvents(
  response: Response,
  watch: (heard: (event: JobEvent) => void) => () => void,
): void {
  response.set({
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store',
    'X-Accel-Buffering': 'no',
  });
  response.flushHeaders();
  response.write('retry: 1000\n\n');
  const stop = watch((event) => response.write(`data: ${JSON.stringify(event)}\n\n`));
  const heartbeat = setInterval(() => response.write(': still here\n\n'), HEARTBEAT_MS);
  response.on('close', () => {
    clearInterval(heartbeat);
    stop();
  });
}
