import { frameDrawn } from './frameDrawn.ts';

/** What waits for its turn, by the part of the page it belongs to. */
const waiting = new Map<string, () => void>();
let isRunning = false;

async function run(): Promise<void> {
  isRunning = true;
  for (;;) {
    await frameDrawn();
    const next = waiting.entries().next().value;
    if (!next) break;
    const [part, act] = next;
    waiting.delete(part);
    try {
      act();
    } catch (error) {
      reportError(error);
    }
  }
  isRunning = false;
}

/**
 * Does what follows from a change after the next frame, each part of the page in a task of its own: the table comes
 * first, and the page answers the hand in between.
 *
 * @param part what asks; a part that asks again before its turn does only what it asked last
 */
export function afterFrame(part: string, act: () => void): void {
  waiting.set(part, act);
  if (!isRunning) void run();
}
