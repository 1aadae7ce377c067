import { mkdir, readFile, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { finderOf } from '@fennip/core/examine';
import type { Fault } from '@fennip/core/fault';
import { findAlone } from '../../findEverything.ts';
import type { JoiningScene } from './joiningScenes.ts';

const FOLDER = fileURLToPath(new URL('../../../../.fennip/net/found', import.meta.url));

/** What the finders alone find on a scene: they take longest and know nothing of the net, so it is kept for the next one. */
export async function foundBefore({ name, seen, nature }: JoiningScene): Promise<Fault[]> {
  const folder = join(FOLDER, finderOf(nature));
  const path = join(folder, `${name}, ${nature}.json`);
  const kept = await readFile(path, 'utf8').catch(() => null);
  if (kept !== null) return JSON.parse(kept) as Fault[];
  const found = await findAlone(seen, nature);
  await mkdir(folder, { recursive: true });
  await writeFile(path, JSON.stringify(found));
  return found;
}
