import { constants } from 'node:fs';
import { copyFile, mkdir, readFile, readdir } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from '../database/connect.ts';
import { hashFile } from '../store/hashFile.ts';
import { writeIdentity } from '../store/agreeOnStore.ts';
import type { Manifest } from './backUp.ts';
import { DUMP, MANIFEST } from './backUp.ts';
import { runProgram } from './runProgram.ts';

async function readManifest(from: string): Promise<Manifest> {
  const text = await readFile(join(from, MANIFEST), 'utf8').catch(() => null);
  const manifest = text === null ? null : (JSON.parse(text) as Manifest);
  if (manifest?.format !== 'fennip-backup') throw new Error(`${from} holds no whole backup`);
  return manifest;
}

async function refuseOccupied(database: Database, folder: string): Promise<void> {
  const { rows } = await database.raw(`select count(*) as tables from pg_tables where schemaname = 'public'`);
  if (Number(rows[0].tables) > 0) throw new Error('The database is not empty. Restore into an empty one.');
  const held = await readdir(join(folder, 'originals')).catch(() => []);
  if (held.length > 0) throw new Error(`${folder} is not empty. Restore into an empty folder.`);
}

/**
 * Brings a backup back into an empty database and an empty folder. The server makes the levels of all pictures again when it
 * starts.
 *
 * @throws Error where something stands there already, or the backup is not whole
 */
export async function restore(
  database: Database,
  url: string,
  folder: string,
  from: string,
): Promise<Manifest> {
  const manifest = await readManifest(from);
  await refuseOccupied(database, folder);
  for (const shelf of ['originals', 'deliveries']) await mkdir(join(folder, shelf), { recursive: true });
  for (const { shelf, sha256, sizeBytes } of manifest.files) {
    const onto = join(folder, shelf, sha256);
    await copyFile(join(from, shelf, sha256), onto, constants.COPYFILE_FICLONE | constants.COPYFILE_EXCL);
    const held = await hashFile(onto);
    if (held.sha256 !== sha256 || held.sizeBytes !== sizeBytes)
      throw new Error(`${join(from, shelf, sha256)} is damaged. Nothing else was brought back.`);
  }
  await runProgram('pg_restore', ['--no-owner', '--exit-on-error', `--dbname=${url}`, join(from, DUMP)]);
  await database('all_pictures').where('state', 'ready').update({ state: 'preparing', finest_level: null });
  await writeIdentity(folder, manifest.storeId);
  return manifest;
}
