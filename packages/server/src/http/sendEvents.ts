import type { Response } from 'express';
import type { EventHub } from '../events/eventHub.ts';

/** A comment now and then keeps proxies from closing a quiet stream. */
const HEARTBEAT_MS = 20_000;

/**
 * Sends a job's events as they happen (server-sent events), until the page goes away, the server stops, or whoever watches may
 * not any more.
 *
 * @param isAllowed asked now and then: somebody may sign out, or a job be shared no longer
 */
export function sendEvents(
  response: Response,
  events: EventHub,
  jobId: string,
  isAllowed: () => Promise<boolean>,
): void {
  response.set({
    'Content-Type': 'text/event-stream',
    'Cache-Control': 'no-store',
    'X-Accel-Buffering': 'no',
  });
  response.flushHeaders();
  response.write('retry: 1000\n\n');
  const stop = events.watch(jobId, (event) => response.write(`data: ${JSON.stringify(event)}\n\n`));
  // A server that stops ends its streams in good order; the page then asks for a new one.
  const stopWaiting = events.onClose(() => response.end());
  const beat = async (): Promise<void> => {
    if (await isAllowed()) response.write(': still here\n\n');
    else response.end();
  };
  // Where that cannot be told just now, it is asked again the next time.
  const heartbeat = setInterval(() => void beat().catch(() => undefined), HEARTBEAT_MS);
  response.on('close', () => {
    clearInterval(heartbeat);
    stop();
    stopWaiting();
  });
}
