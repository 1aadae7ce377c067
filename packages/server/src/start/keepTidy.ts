import { purgeOlder } from '../bin/purge.ts';
import type { Context } from '../context/context.ts';
import { tidyStore } from './resume.ts';

/** How often it is tidied, in milliseconds. */
const EVERY_MS = 6 * 3_600_000;
const DAY_MS = 24 * 3_600_000;

/** Tidies the store and takes away for good what has lain in the bin for long enough, now and then, until it is stopped. */
export function keepTidy(context: Context): () => void {
  const { binDays } = context.config;
  const tidy = async (): Promise<void> => {
    await purgeOlder(context, new Date(Date.now() - binDays * DAY_MS));
    await tidyStore(context);
  };
  const timer = setInterval(() => {
    tidy().catch((error: unknown) => context.log.warn({ err: error }, 'could not be tidied'));
  }, EVERY_MS);
  return () => clearInterval(timer);
}
