import { constants } from 'node:fs';
import { copyFile, mkdir, open, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from '../database/connect.ts';
import { hashFile } from '../store/hashFile.ts';
import { holdBackup } from '../store/holdBackup.ts';
import type { NamedFile } from './namedFiles.ts';
import { namedFiles } from './namedFiles.ts';
import { runProgram } from './runProgram.ts';

/** What a backup holds, written last: without it a folder is no backup. */
export interface Manifest {
  readonly format: 'fennip-backup';
  readonly version: 1;
  /** ISO 8601. */
  readonly madeAt: string;
  readonly storeId: string;
  readonly files: readonly NamedFile[];
}

export const MANIFEST = 'backup.json';
export const DUMP = 'database.dump';

/** Copies a file of the store, unless it is there from an earlier backup, and reads it again. @throws Error where it is not whole */
async function copyWhole(from: string, onto: string, file: NamedFile): Promise<void> {
  const there = await stat(onto).catch(() => null);
  if (there?.size === file.sizeBytes) return;
  const part = `${onto}.part`;
  await copyFile(from, part, constants.COPYFILE_FICLONE);
  const { sha256, sizeBytes } = await hashFile(part);
  if (sha256 !== file.sha256 || sizeBytes !== file.sizeBytes) {
    await rm(part);
    throw new Error(`${from} does not hold what the database says: see ./fennip check --hashes`);
  }
  await rename(part, onto);
}

/** Writes a file whole, and makes it outlive a loss of power. */
async function writeSynced(path: string, text: string): Promise<void> {
  const file = await open(`${path}.part`, 'w');
  try {
    await file.writeFile(text);
    await file.sync();
  } finally {
    await file.close();
  }
  await rename(`${path}.part`, path);
}

/**
 * Writes database and store into a folder as they are at one moment, while the server goes on. Levels of pictures are left
 * out: they are made again. A folder that holds an earlier backup takes only what is new.
 *
 * @param url of the database
 * @param folder of the store
 */
export async function backUp(
  database: Database,
  url: string,
  folder: string,
  onto: string,
): Promise<Manifest> {
  for (const shelf of ['originals', 'deliveries']) await mkdir(join(onto, shelf), { recursive: true });
  await rm(join(onto, MANIFEST), { force: true });
  return holdBackup(url, async () => {
    const named = await database.transaction(
      async (moment) => {
        const { rows } = await moment.raw('select pg_export_snapshot() as snapshot');
        const dump = join(onto, DUMP);
        await runProgram('pg_dump', [
          ...['--format=custom', `--snapshot=${rows[0].snapshot}`, `--file=${dump}.part`, `--dbname=${url}`],
        ]);
        await rename(`${dump}.part`, dump);
        const { id } = await moment('store_identity').first('id');
        return { storeId: id as string, files: await namedFiles(moment) };
      },
      { isolationLevel: 'repeatable read', readOnly: true },
    );
    for (const file of named.files) {
      const name = join(file.shelf, file.sha256);
      await copyWhole(join(folder, name), join(onto, name), file);
    }
    const manifest: Manifest = {
      ...{ format: 'fennip-backup', version: 1, madeAt: new Date().toISOString(), ...named },
    };
    await writeSynced(join(onto, MANIFEST), `${JSON.stringify(manifest, null, 1)}\n`);
    return manifest;
  });
}
