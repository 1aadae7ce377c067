import type { Context } from '../context/context.ts';

/** How often it is looked for work whose server died, in milliseconds. */
const EVERY_MS = 4000;

/** Keeps ordering lost work again, until it is stopped. A server that dies lets go of its locks, and so it is seen. */
export function keepReclaiming(context: Context, reclaim: () => Promise<void>): () => void {
  let isLooking = false;
  const timer = setInterval(() => {
    if (isLooking) return;
    isLooking = true;
    reclaim()
      .catch((error: unknown) => context.log.warn({ err: error }, 'could not look for lost work'))
      .finally(() => {
        isLooking = false;
      });
  }, EVERY_MS);
  return () => clearInterval(timer);
}
