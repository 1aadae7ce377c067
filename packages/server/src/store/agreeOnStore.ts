import { said, SaidError } from '@fennip/words';
import { randomUUID } from 'node:crypto';
import { mkdir, open, readFile, readdir, rename } from 'node:fs/promises';
import { join } from 'node:path';
import type { Database } from '../database/connect.ts';

/** The database and the folder of pictures do not belong together: to go on would take every picture for one too many. */
export class OtherStoreError extends SaidError {
  override readonly name = 'OtherStoreError';
}

/** The file by which a folder of pictures is known. */
const identityPath = (folder: string): string => join(folder, 'store.json');

async function readIdentity(folder: string): Promise<string | null> {
  try {
    const { id } = JSON.parse(await readFile(identityPath(folder), 'utf8')) as { id: string };
    return id;
  } catch (error) {
    if (error instanceof Error && 'code' in error && error.code === 'ENOENT') return null;
    throw error;
  }
}

/** Writes the id that a database knows a folder by. */
export async function writeIdentity(folder: string, id: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  const passing = `${identityPath(folder)}.${randomUUID()}`;
  const file = await open(passing, 'wx');
  try {
    await file.writeFile(`${JSON.stringify({ id })}\n`);
    await file.sync();
  } finally {
    await file.close();
  }
  // Two servers that start at once write the same.
  await rename(passing, identityPath(folder));
}

/** True if a folder holds an original that the database names, or neither has any. */
async function haveMet(database: Database, folder: string): Promise<boolean> {
  const held = new Set(await readdir(join(folder, 'originals')).catch(() => []));
  const named: string[] = await database('all_pictures').pluck('sha256');
  return named.length === 0 ? held.size === 0 : named.some((sha256) => held.has(sha256));
}

/** The id that the database knows its folder by; made up where neither has one yet. */
async function agreedId(database: Database, folder: string): Promise<string> {
  await database.raw('lock table store_identity in exclusive mode');
  const row: { id: string } | undefined = await database('store_identity').first('id');
  const written = await readIdentity(folder);
  if (row && written === row.id) return row.id;
  if (row && written) throw new OtherStoreError(said('start.otherStore', { folder }));
  if (written) throw new OtherStoreError(said('start.storeUnknown', { folder }));
  // From before there were ids, or cut off between the two.
  if (!(await haveMet(database, folder)))
    throw new OtherStoreError(said(row ? 'start.storeMissing' : 'start.storeUnknown', { folder }));
  const id = row?.id ?? randomUUID();
  if (!row) await database('store_identity').insert({ id });
  return id;
}

/**
 * Checks that a folder of pictures is the one that the database knows; both are made known to each other where both are new.
 *
 * @throws OtherStoreError where they do not belong together
 */
export async function agreeOnStore(database: Database, folder: string): Promise<void> {
  const id = await database.transaction((change) => agreedId(change, folder));
  // Only now: a folder with an id that no database knows is refused.
  if ((await readIdentity(folder)) === null) await writeIdentity(folder, id);
}
