import { createHash } from 'node:crypto';
import { mkdir, readFile, readdir, rm, writeFile } from 'node:fs/promises';
import { availableParallelism } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { deserialize, serialize } from 'node:v8';
import { pixelsOf } from '@fennip/core/raster';
import type { WitnessMaps } from '@fennip/core/witness';
import { lookAtPicture } from '@fennip/core/witness';
import { startWitness } from '@fennip/witness';
import type { JoiningScene } from './joiningScenes.ts';

const FOLDER = fileURLToPath(new URL('../../../../.fennip/net/maps', import.meta.url));

/** What a net says of scenes; it is kept while the net is the same, so that forests can be tried without waiting for it. */
export async function keptMaps(net: string): Promise<(scene: JoiningScene) => Promise<WitnessMaps>> {
  const started = await startWitness(availableParallelism(), net);
  if (!('witness' in started)) throw new Error(`no net to ask: ${started.missing}`);
  const { witness } = started;
  const hash = createHash('sha256')
    .update(await readFile(net))
    .digest('hex')
    .slice(0, 16);
  const folder = join(FOLDER, hash);
  await mkdir(folder, { recursive: true });
  for (const other of await readdir(FOLDER))
    if (other !== hash) await rm(join(FOLDER, other), { recursive: true });
  return async ({ name, seen }) => {
    const path = join(folder, `${name}.v8`);
    const kept = await readFile(path).catch(() => null);
    if (kept) return deserialize(kept) as WitnessMaps;
    const maps = await lookAtPicture(pixelsOf(seen), witness);
    await writeFile(path, serialize(maps));
    return maps;
  };
}
