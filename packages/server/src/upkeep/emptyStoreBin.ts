import { readdir, rm } from 'node:fs/promises';
import { join } from 'node:path';

const DAY_MS = 24 * 3_600_000;

/**
 * Takes away for good what was put into the bin of the store, because nothing named it, so many days ago or earlier.
 *
 * @returns the days that are gone, as their folders were called
 */
export async function emptyStoreBin(folder: string, days: number): Promise<string[]> {
  const last = new Date(Date.now() - days * DAY_MS).toISOString().slice(0, 10);
  const gone = (await readdir(join(folder, 'bin'))).filter((day) => day <= last).sort();
  for (const day of gone) await rm(join(folder, 'bin', day), { recursive: true });
  return gone;
}
